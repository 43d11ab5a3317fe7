import { useDocumentTitle } from "@mantine/hooks";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { invitedName, joinBy } from "../api/people";
import { PasswordField } from "./PasswordField";
import { Slip } from "./Slip";

/** Coming in for the first time, or after a lost password, by a code that the owner made. */
export function Join() {
  const { code = "" } = useParams();
  const asked = useQuery({ queryKey: ["invitation", code], queryFn: () => invitedName(code), retry: false });
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  const join = useMutation({
    mutationFn: () => joinBy(code, password),
    // A page of its own: nothing that was known before is known to somebody else.
    onSuccess: () => window.location.assign("/"),
  });
  useDocumentTitle("Come in, Hard Line");
  const other = password !== "" && again !== "" && password !== again;
  const wrong = asked.error?.message ?? join.error?.message ?? (other ? "The two are not the same." : null);
  return (
    <Slip
      title={asked.data ? `Welcome, ${asked.data.name}` : "Come in"}
      words="Choose the password by which you sign in from now on."
      does="Come in"
      act={() => !other && asked.data && join.mutate()}
      busy={join.isPending}
      wrong={wrong}
    >
      <PasswordField label="Password" isNew autoFocus value={password} change={setPassword} />
      <PasswordField label="Once more" isNew description="" value={again} change={setAgain} />
    </Slip>
  );
}
