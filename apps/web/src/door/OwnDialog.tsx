import { type SessionView } from "@hardline/contract";
import { Button, Group, Modal, TextInput } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import { useState } from "react";
import { useOwn } from "../api/people";
import css from "../shared/forms.module.css";
import { PasswordField } from "./PasswordField";

interface Props {
  readonly person: NonNullable<SessionView["person"]>;
  readonly close: () => void;
}

/** What one has to come in by: password, PIN, and the codes of a phone. */
export function OwnDialog({ person, close }: Props) {
  const own = useOwn();
  const [password, setPassword] = useState("");
  const [fresh, setFresh] = useState("");
  const [pin, setPin] = useState("");
  const [code, setCode] = useState("");
  const done = (message: string) => ({ onSuccess: () => void notifications.show({ message }) });
  const errors = Object.values(own).map((m) => m.error);
  const key = own.timeKey.data && !own.confirm.isSuccess ? own.timeKey.data : null;
  return (
    <Modal opened onClose={close} title={person.name} size="md">
      <form className={css.form} onSubmit={(e) => e.preventDefault()}>
        <PasswordField
          label="Your password now"
          description="Asked for whatever you change here"
          autoFocus
          optional
          value={password}
          change={setPassword}
        />
        {errors.map(
          (error, k) =>
            error && (
              <p key={k} className={css.wrong} role="alert">
                {error.message}
              </p>
            ),
        )}
        <Group align="flex-end" wrap="nowrap">
          <div className={css.wide}>
            <PasswordField
              label="New password"
              isNew
              optional
              description=""
              value={fresh}
              change={setFresh}
            />
          </div>
          <Button
            variant="default"
            disabled={!password || !fresh}
            loading={own.password.isPending}
            onClick={() =>
              own.password.mutate(
                { old: password, password: fresh },
                done("The password is changed. You are signed out everywhere else."),
              )
            }
          >
            Change
          </Button>
        </Group>
        <Group align="flex-end" wrap="nowrap">
          <TextInput
            className={css.wide}
            label="PIN"
            description={
              person.hasPin ? "You have one." : "Four to eight digits, for a bench that several share"
            }
            inputMode="numeric"
            autoComplete="off"
            maxLength={8}
            value={pin}
            onChange={(e) => setPin(e.currentTarget.value.replace(/\D/g, ""))}
          />
          <Button
            variant="default"
            disabled={!password || pin.length < 4}
            loading={own.pin.isPending}
            onClick={() => own.pin.mutate({ password, pin }, done("The PIN is set."))}
          >
            Set
          </Button>
          {person.hasPin && (
            <Button
              variant="default"
              disabled={!password}
              onClick={() => own.pin.mutate({ password }, done("There is no PIN any more."))}
            >
              Take off
            </Button>
          )}
        </Group>
        <div>
          <span className={css.label}>Second factor</span>
          <p className={css.note}>
            {person.secondFactor
              ? "On: at sign-in the six digits that your phone shows are asked for as well."
              : "Off: besides the password, six digits that your phone shows can be asked for."}
          </p>
          {person.secondFactor ? (
            <Button
              variant="default"
              disabled={!password}
              onClick={() => own.drop.mutate(password, done("The second factor is off."))}
            >
              Take off
            </Button>
          ) : (
            <Button
              variant="default"
              disabled={!password}
              loading={own.timeKey.isPending}
              onClick={() => own.timeKey.mutate(password)}
            >
              Set up
            </Button>
          )}
        </div>
        {key && (
          <div className={css.key}>
            <img
              src={`data:image/svg+xml;utf8,${encodeURIComponent(key.picture)}`}
              alt="To be scanned by an application for time codes"
            />
            <div className={css.form}>
              <p className={css.note}>
                Scan this with an application for time codes, or type the key into it: <code>{key.key}</code>
              </p>
              <Group align="flex-end" wrap="nowrap">
                <TextInput
                  label="The six digits it shows"
                  inputMode="numeric"
                  autoComplete="one-time-code"
                  maxLength={6}
                  value={code}
                  onChange={(e) => setCode(e.currentTarget.value.replace(/\D/g, ""))}
                />
                <Button
                  flex="none"
                  disabled={code.length < 6}
                  loading={own.confirm.isPending}
                  onClick={() => own.confirm.mutate(code, done("The second factor is on."))}
                >
                  Confirm
                </Button>
              </Group>
            </div>
          </div>
        )}
      </form>
    </Modal>
  );
}
