import { LEAST_PASSWORD } from "@hardline/contract/rights";
import { PasswordInput } from "@mantine/core";

interface Props {
  readonly label: string;
  readonly value: string;
  readonly change: (value: string) => void;
  /** It is chosen here, and not one that there is. */
  readonly isNew?: boolean;
  /** Under its label; of a new one, how long it is to be, where nothing else is said. */
  readonly description?: string;
  readonly autoFocus?: boolean;
  /** It may be left empty. */
  readonly optional?: boolean;
}

const HOW_LONG = `${LEAST_PASSWORD} letters or more; a few words that you alone put together are best`;

/** A password: one that there is, or a new one. */
export const PasswordField = ({ label, value, change, isNew, description, autoFocus, optional }: Props) => (
  <PasswordInput
    {...{ label, value, autoFocus }}
    {...(autoFocus ? { "data-autofocus": true } : {})}
    description={description ?? (isNew ? HOW_LONG : undefined)}
    size="sm"
    autoComplete={isNew ? "new-password" : "current-password"}
    required={!optional}
    withAsterisk={false}
    maxLength={200}
    onChange={(e) => change(e.currentTarget.value)}
  />
);
