import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState, type ReactNode } from "react";
import { useLocation } from "react-router";
import { whenSignedOut } from "../api/client";
import { askWhoIsThere, useSession } from "../api/people";

const SignIn = lazy(() => import("./SignIn").then((m) => ({ default: m.SignIn })));
const FirstOwner = lazy(() => import("./FirstOwner").then((m) => ({ default: m.FirstOwner })));

/**
 * Lets in who is known. Pages begin before that is known, so that nobody waits for it: the server shows nothing to anybody
 * else. Who was here and is known no more is asked over the page, which stays as it is with all that is on it.
 */
export function Door({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const { data } = useSession();
  const { pathname } = useLocation();
  const [here, setHere] = useState<string | null>(null);
  useEffect(() => whenSignedOut(() => askWhoIsThere(queries)), [queries]);
  const person = data?.person?.id ?? null;
  if (person !== null && here === null) setHere(person);
  // Somebody else sees nothing that was asked for by the one before.
  useEffect(() => {
    if (person !== null && here !== null && person !== here) window.location.reload();
  }, [person, here]);
  // Asked for in vain while nobody was known.
  useEffect(() => {
    if (person !== null) void queries.refetchQueries({ predicate: (q) => q.state.status === "error" });
  }, [person, queries]);
  if (data && person === null && !pathname.startsWith("/join/")) {
    if (here === null) return <Suspense>{data.first ? <FirstOwner /> : <SignIn />}</Suspense>;
    return (
      <>
        {children}
        <Suspense>
          <SignIn over />
        </Suspense>
      </>
    );
  }
  return children;
}
