import { type TicketView } from "@hardline/contract";
import { ticketFields, type TicketField, type TicketFields } from "@hardline/contract/ticketFields";
import {
  Autocomplete,
  type AutocompleteProps,
  Button,
  ColorInput,
  Group,
  Modal,
  Select,
  SimpleGrid,
  Textarea,
  TextInput,
} from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useForm, type UseFormReturnType } from "@mantine/form";
import { Link } from "react-router";
import { NumberField } from "../shared/fields/NumberField";
import { useCustomerNames } from "../api/customers";
import { useTicketChange } from "../api/tickets";
import { useTyped } from "../shared/useTyped";
import { tellFault } from "../shared/tell";

/** What is written on a ticket; archiving and bringing back. */
export function TicketDialog({
  ticket,
  opened,
  close,
  orderAgain,
}: {
  ticket: TicketView;
  opened: boolean;
  close: () => void;
  orderAgain: () => void;
}) {
  const { change, archive } = useTicketChange(ticket.id);
  const form = useForm<TicketFields>({
    initialValues: Object.fromEntries(ticketFields().map(([name]) => [name, ticket[name]])) as never,
    validate: Object.fromEntries(
      ticketFields().map(([name, field]) => [name, (v: unknown) => faultOf(field, v)]),
    ) as never,
  });
  const away = ticket.state === "archived";
  const failed = (error: unknown) => tellFault("The ticket was not changed", error);
  return (
    <Modal opened={opened} onClose={close} title={`Ticket ${ticket.number}`} size="lg">
      <form
        onSubmit={form.onSubmit((values) => {
          const changed = Object.fromEntries(
            Object.entries(values).filter(([k, v]) => v !== ticket[k as keyof TicketView]),
          );
          change.mutate(changed, { onSuccess: close, onError: failed });
        })}
      >
        <SimpleGrid cols={2} spacing="sm">
          {ticketFields()
            .filter(([, { kind }]) => kind !== "note")
            .map(([name, field]) => (
              <TicketInput key={name} {...{ name, field, form }} />
            ))}
        </SimpleGrid>
        {ticketFields()
          .filter(([, { kind }]) => kind === "note")
          .map(([name, field]) => (
            <TicketInput key={name} {...{ name, field, form }} />
          ))}
        <Group justify="space-between" mt="md">
          <Group gap="sm">
            <Button
              variant="default"
              onClick={() => archive.mutate(!away, { onSuccess: close, onError: failed })}
            >
              {away ? "Bring back" : "Archive"}
            </Button>
            <Button variant="default" onClick={orderAgain}>
              Order again
            </Button>
            {ticket.customerId && (
              <Button variant="default" component={Link} to={`/customers/${ticket.customerId}`}>
                Customer
              </Button>
            )}
          </Group>
          <Button type="submit" loading={change.isPending}>
            Save
          </Button>
        </Group>
      </form>
    </Modal>
  );
}

/** What is wrong with a field's value; null where nothing is. */
function faultOf(field: TicketField, value: unknown): string | null {
  if (field.kind === "text" && field.least > 0 && String(value).trim().length < field.least)
    return `${field.label} is needed`;
  if (field.kind === "colour" && !/^(#[0-9a-f]{6})?$/.test(String(value)))
    return "# and six digits, or empty";
  return null;
}

/** Names of customers that are known are offered as one types. */
function CustomerInput(props: AutocompleteProps) {
  const find = useTyped(props.value ?? "");
  const { data = [] } = useCustomerNames(find, true);
  // The server found them, by words in any order: whatever it found is offered.
  return (
    <Autocomplete {...props} size="sm" data={data.map((c) => c.name)} filter={({ options }) => options} />
  );
}

interface InputProps {
  readonly name: keyof TicketFields;
  readonly field: TicketField;
  readonly form: UseFormReturnType<TicketFields>;
}

/** The control of one field. */
function TicketInput({ name, field, form }: InputProps) {
  const { label, hint } = field;
  const common = { label, description: hint, ...form.getInputProps(name) };
  switch (field.kind) {
    case "text":
      if (field.offers === "customers") return <CustomerInput {...common} maxLength={field.most} />;
      return <TextInput {...common} data-autofocus={name === "piece" || undefined} maxLength={field.most} />;
    case "note":
      return <Textarea {...common} mt="sm" autosize minRows={2} maxRows={8} maxLength={field.most} />;
    case "day":
      return <DateInput {...common} clearable valueFormat="D MMMM YYYY" size="sm" />;
    case "choice":
      return <Select {...common} size="sm" data={[...field.of]} />;
    case "colour":
      return <ColorInput {...common} size="sm" />;
    case "count":
      return (
        <NumberField
          {...{ label }}
          shown
          decimals={0}
          min={field.least}
          max={field.most}
          value={form.values[name] as number}
          change={(v) => form.setFieldValue(name, Math.round(v))}
        />
      );
  }
}
