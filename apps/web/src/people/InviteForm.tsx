import { ROLE_WORDS, ROLES, type Role } from "@hardline/contract/rights";
import { Button, Group, Modal, Radio, Stack, TextInput } from "@mantine/core";
import { useState } from "react";
import { usePeopleChange } from "../api/people";
import css from "../shared/forms.module.css";
import { type Told } from "./ToldOnce";

/** Somebody new in the shop. */
export function InviteForm({ close, tell }: { close: () => void; tell: (told: Told) => void }) {
  const { invite } = usePeopleChange();
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("operator");
  return (
    <Modal opened onClose={close} title="Invite somebody">
      <form
        className={css.form}
        onSubmit={(e) => {
          e.preventDefault();
          invite.mutate(
            { name: name.trim(), role },
            {
              onSuccess: ({ code, person }) => {
                close();
                tell({ kind: "way", name: person.name, code });
              },
            },
          );
        }}
      >
        <TextInput
          data-autofocus
          label="Name"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Radio.Group label="Role" value={role} onChange={(v) => setRole(v as Role)}>
          <Stack gap={6} mt={6}>
            {ROLES.map((r) => (
              <Radio key={r} value={r} label={r} description={ROLE_WORDS[r]} />
            ))}
          </Stack>
        </Radio.Group>
        {invite.error && (
          <p className={css.wrong} role="alert">
            {invite.error.message}
          </p>
        )}
        <Group justify="flex-end">
          <Button type="submit" loading={invite.isPending} disabled={!name.trim()}>
            Invite
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
