import { SCOPES, type Scope } from "@hardline/contract/rights";
import { Button, Checkbox, Group, Modal, Stack, TextInput } from "@mantine/core";
import { useState } from "react";
import { useTokenChange } from "../api/people";
import css from "../shared/forms.module.css";
import { type Told } from "./ToldOnce";

const WORDS: Readonly<Record<Scope, string>> = {
  see: "see tickets, routes, files, runs",
  make: "make tickets, routes and files",
  run: "send, pause and stop runs",
  shop: "change machines and materials",
};

/** A program that is to be let in. */
export function TokenForm({ close, tell }: { close: () => void; tell: (told: Told) => void }) {
  const { add } = useTokenChange();
  const [name, setName] = useState("");
  const [scopes, setScopes] = useState<string[]>(["see"]);
  return (
    <Modal opened onClose={close} title="New token">
      <form
        className={css.form}
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate(
            { name: name.trim(), scopes: scopes as Scope[] },
            {
              onSuccess: ({ secret }) => {
                close();
                tell({ kind: "token", name: name.trim(), secret });
              },
            },
          );
        }}
      >
        <TextInput
          data-autofocus
          label="Program"
          description="What it is, so that you know it again"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Checkbox.Group label="It may" value={scopes} onChange={setScopes}>
          <Stack gap={6} mt={6}>
            {SCOPES.map((s) => (
              <Checkbox key={s} value={s} label={WORDS[s]} />
            ))}
          </Stack>
        </Checkbox.Group>
        {add.error && (
          <p className={css.wrong} role="alert">
            {add.error.message}
          </p>
        )}
        <Group justify="flex-end">
          <Button type="submit" loading={add.isPending} disabled={!name.trim() || scopes.length === 0}>
            Make it
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
