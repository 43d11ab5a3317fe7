import { TextInput } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { useState } from "react";
import { useDoor } from "../api/people";
import { PasswordField } from "./PasswordField";
import { Slip } from "./Slip";

/** The first page of a shop that has nobody yet. */
export function FirstOwner() {
  const { first } = useDoor();
  const [code, setCode] = useState("");
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  useDocumentTitle("The owner, Hard Line");
  return (
    <Slip
      title="Who owns this shop?"
      words="Nobody is there yet. The first person is the owner, and invites the others. The code was printed where the program was started."
      does="Begin"
      act={() => first.mutate({ code, name: name.trim(), password })}
      busy={first.isPending}
      wrong={first.error?.message ?? null}
    >
      <TextInput
        label="Code"
        autoFocus
        autoComplete="off"
        required
        withAsterisk={false}
        maxLength={40}
        placeholder="XXXX-XXXX-XXXX"
        value={code}
        onChange={(e) => setCode(e.currentTarget.value)}
      />
      <TextInput
        label="Your name"
        autoComplete="username"
        required
        withAsterisk={false}
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <PasswordField label="Password" isNew value={password} change={setPassword} />
    </Slip>
  );
}
