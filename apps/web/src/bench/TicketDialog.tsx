import { type TicketView } from "@hardline/contract";
import { OUTPUTS } from "@hardline/contract/constants";
import { Button, ColorInput, Group, Modal, Select, SimpleGrid, Textarea, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useForm } from "@mantine/form";
import { NumberField } from "../shared/fields/NumberField";
import { useTicketChange } from "../api/tickets";
import { tellFault } from "../shared/tell";

/** What is written on a ticket; archiving and bringing back. */
export function TicketDialog({
  ticket,
  opened,
  close,
}: {
  ticket: TicketView;
  opened: boolean;
  close: () => void;
}) {
  const { change, archive } = useTicketChange(ticket.id);
  const { piece, customer, due, pieces, output, material, materialColour, note } = ticket;
  const form = useForm({
    initialValues: { piece, customer, due, pieces, output, material, materialColour, note },
    validate: {
      piece: (v) => (v.trim() ? null : "A piece needs a name"),
      materialColour: (v) => (/^(#[0-9a-f]{6})?$/.test(v) ? null : "# and six digits, or empty"),
    },
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
          <TextInput label="Piece" data-autofocus maxLength={120} {...form.getInputProps("piece")} />
          <TextInput label="Customer" maxLength={120} {...form.getInputProps("customer")} />
          <DateInput
            label="Due"
            clearable
            valueFormat="D MMMM YYYY"
            size="sm"
            {...form.getInputProps("due")}
          />
          <NumberField
            label="Pieces"
            shown
            decimals={0}
            min={1}
            max={1000000}
            value={form.values.pieces}
            change={(v) => form.setFieldValue("pieces", Math.round(v))}
          />
          <Select label="Output" size="sm" data={OUTPUTS} {...form.getInputProps("output")} />
          <TextInput label="Material" maxLength={80} {...form.getInputProps("material")} />
          <ColorInput
            label="Its colour"
            size="sm"
            description="Laid behind the art as one of the backings"
            {...form.getInputProps("materialColour")}
          />
        </SimpleGrid>
        <Textarea
          label="Note"
          mt="sm"
          autosize
          minRows={2}
          maxRows={8}
          maxLength={4000}
          {...form.getInputProps("note")}
        />
        <Group justify="space-between" mt="md">
          <Button
            variant="default"
            onClick={() => archive.mutate(!away, { onSuccess: close, onError: failed })}
          >
            {away ? "Bring back" : "Archive"}
          </Button>
          <Button type="submit" loading={change.isPending}>
            Save
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
