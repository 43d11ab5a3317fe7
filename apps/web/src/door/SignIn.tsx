import { TextInput } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { useState } from "react";
import { Refusal } from "../api/client";
import { useDoor } from "../api/people";
import { PasswordField } from "./PasswordField";
import { Slip } from "./Slip";

const wantsCode = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.title === "Second factor";

/** Coming in by name and password, and the six digits of a phone where the person has that. */
export function SignIn({ over = false }: { over?: boolean }) {
  const { signIn } = useDoor();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [asked, setAsked] = useState(false);
  useDocumentTitle("Sign in, Hard Line");
  const { error } = signIn;
  const act = (): void =>
    signIn.mutate(
      { name, password, ...(code ? { code } : {}) },
      {
        onError: (e) => {
          if (!wantsCode(e)) return;
          setAsked(true);
          setCode("");
        },
      },
    );
  const wrong = error && !(wantsCode(error) && signIn.variables?.code === undefined) ? error.message : null;
  return (
    <Slip
      title="Sign in"
      words={
        over
          ? "You were signed out. Nothing is lost: what you were at is below, as it was."
          : "With your name in this shop. If you have lost your password, the owner makes you a way to a new one."
      }
      does="Sign in"
      busy={signIn.isPending}
      {...{ act, wrong, over }}
    >
      <TextInput
        label="Name"
        autoFocus
        autoComplete="username"
        required
        withAsterisk={false}
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <PasswordField label="Password" value={password} change={setPassword} />
      {asked && (
        <TextInput
          label="Six digits that your phone shows now"
          autoFocus
          autoComplete="one-time-code"
          inputMode="numeric"
          maxLength={6}
          value={code}
          onChange={(e) => setCode(e.currentTarget.value.replace(/\D/g, ""))}
        />
      )}
    </Slip>
  );
}
