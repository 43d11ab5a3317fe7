import { Button, CopyButton, Group, Modal } from "@mantine/core";
import forms from "../shared/forms.module.css";
import css from "./People.module.css";

/** What is told once and kept nowhere. */
export type Told =
  | { readonly kind: "way"; readonly name: string; readonly code: string }
  | { readonly kind: "token"; readonly name: string; readonly secret: string };

export function ToldOnce({ told, close }: { told: Told; close: () => void }) {
  const text = told.kind === "way" ? `${window.location.origin}/join/${told.code}` : told.secret;
  return (
    <Modal
      opened
      onClose={close}
      title={told.kind === "way" ? `The way in for ${told.name}` : `The token of ${told.name}`}
    >
      <div className={forms.form}>
        <p className={forms.note}>
          {told.kind === "way"
            ? "Hand this to nobody else: whoever opens it chooses the password. It works once, for seven days."
            : "The program sends it as “Authorization: Bearer …”. It is shown now and never again."}
        </p>
        <div className={css.told}>{text}</div>
        <Group justify="flex-end">
          <CopyButton value={text}>
            {({ copied, copy }) => (
              <Button variant="default" onClick={copy}>
                {copied ? "Copied" : "Copy"}
              </Button>
            )}
          </CopyButton>
          <Button onClick={close}>Done</Button>
        </Group>
      </div>
    </Modal>
  );
}
