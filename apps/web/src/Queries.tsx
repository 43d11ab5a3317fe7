import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Refusal } from "./api/client";
import { useChanges } from "./api/useChanges";

/** Asked again where there was no answer; what was refused would be refused again. */
const RETRIES = 2;
/** Answers are taken as new for so long, in milliseconds. */
const STALE_MS = 5000;

const newClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: {
        staleTime: STALE_MS,
        retry: (failures, error) =>
          failures < RETRIES && !(error instanceof Refusal && error.problem.status < 500),
        // The browser's own word on being online says nothing of a server in the house: it is asked, and says so.
        networkMode: "always",
      },
      mutations: { networkMode: "always" },
    },
  });

/** What was asked of the server, kept for all pages. */
export function Queries({ children }: { children: ReactNode }) {
  const [client] = useState(newClient);
  useChanges(client);
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
