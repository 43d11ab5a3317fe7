import { Button, Group, Modal, PinInput, Select } from "@mantine/core";
import { useState } from "react";
import { useDoor, usePeople } from "../api/people";
import css from "../shared/forms.module.css";

const LONGEST = 8;

/** Another person at a browser that several share, by a PIN. */
export function ChangePerson({ here, close }: { here: string; close: () => void }) {
  const { data = [] } = usePeople();
  const { change } = useDoor();
  const others = data.filter((p) => p.hasPin && p.id !== here);
  const [chosen, setChosen] = useState<string | null>(null);
  const [pin, setPin] = useState("");
  const personId = chosen ?? (others.length === 1 ? others[0].id : null);
  return (
    <Modal opened onClose={close} title="Who is at the bench now?" size="sm">
      {data.length > 0 && others.length === 0 ? (
        <p className={css.note}>
          Nobody else has a PIN. Each sets an own one: sign in, then the name at the top right, Password, PIN,
          second factor.
        </p>
      ) : (
        <form
          className={css.form}
          onSubmit={(e) => {
            e.preventDefault();
            if (personId) change.mutate({ personId, pin }, { onSuccess: close, onError: () => setPin("") });
          }}
        >
          <Select
            label="Person"
            size="sm"
            data={others.map(({ id, name }) => ({ value: id, label: name }))}
            value={personId}
            onChange={setChosen}
          />
          <div>
            <label className={css.label} htmlFor="pin-1">
              PIN
            </label>
            <PinInput
              id="pin"
              getInputProps={(k) => ({ id: `pin-${k + 1}` })}
              aria-label="PIN"
              length={LONGEST}
              size="xs"
              type="number"
              mask
              oneTimeCode={false}
              placeholder=""
              value={pin}
              onChange={setPin}
            />
          </div>
          {change.error && (
            <p className={css.wrong} role="alert">
              {change.error.message}
            </p>
          )}
          <Group justify="flex-end">
            <Button type="submit" loading={change.isPending} disabled={!personId || pin.length < 4}>
              Change
            </Button>
          </Group>
        </form>
      )}
    </Modal>
  );
}
