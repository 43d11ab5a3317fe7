import { type OrderAgain, type OrderAgainView } from "@hardline/contract";
import { TICKET_FIELDS } from "@hardline/contract/ticketFields";
import { Button, ColorInput, Group, Modal, Select, SimpleGrid, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { orderAgain, useOrderAgain } from "../api/customers";
import { NumberField } from "../shared/fields/NumberField";
import forms from "../shared/forms.module.css";
import { Trouble } from "../shared/Trouble";

/** The same once more: what is different this time, and a new ticket lies on the bench. */
export function OrderAgainForm({ ticketId, close }: { ticketId: string; close: () => void }) {
  const asked = useOrderAgain(ticketId);
  return (
    <Modal
      opened
      onClose={close}
      title={asked.data ? `${asked.data.ticket.piece}, once more` : "Once more"}
      size="lg"
    >
      <Trouble title="It cannot be ordered again" of={[asked]} />
      {asked.data && <Fields key={ticketId} offer={asked.data} close={close} />}
    </Modal>
  );
}

function Fields({ offer, close }: { offer: OrderAgainView; close: () => void }) {
  const { ticket, words, colourways } = offer;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [pieces, setPieces] = useState(ticket.pieces);
  const [due, setDue] = useState<string | null>(null);
  const [colour, setColour] = useState(ticket.materialColour);
  const [way, setWay] = useState("");
  const [others, setOthers] = useState<readonly string[]>(words);
  const order = useMutation({
    mutationFn: () => {
      const given: OrderAgain = {
        ...{ pieces, due },
        ...(way ? { colourway: way } : { materialColour: colour }),
        words: words.map((was, k) => ({ was, now: others[k] })).filter((w) => w.was !== w.now),
      };
      return orderAgain(ticket.id, given);
    },
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: ["tickets"] });
      close();
      void navigate(`/tickets/${id}`);
    },
  });
  const count = TICKET_FIELDS.pieces;
  return (
    <form
      className={forms.form}
      onSubmit={(e) => {
        e.preventDefault();
        order.mutate();
      }}
    >
      <p className={forms.note}>
        A new ticket with the artwork and{" "}
        {ticket.routes.length === 1 ? "the route" : `all ${ticket.routes.length} routes`} of ticket{" "}
        {ticket.number}. That one stays as it is.
      </p>
      <SimpleGrid cols={2} spacing="sm">
        <NumberField
          label={count.label}
          shown
          decimals={0}
          min={count.least}
          max={count.most}
          value={pieces}
          change={(v) => setPieces(Math.round(v))}
        />
        <DateInput
          label="Due"
          size="sm"
          clearable
          valueFormat="D MMM YYYY"
          minDate={new Date()}
          value={due}
          onChange={setDue}
        />
        {colourways.length > 0 && (
          <Select
            label="Colourway"
            size="sm"
            data={[
              { value: "", label: "as they were" },
              ...colourways.map((name) => ({ value: name, label: `${name} alone` })),
            ]}
            value={way}
            onChange={(v) => setWay(v ?? "")}
          />
        )}
        {way === "" && (
          <ColorInput label="Colour of the material" size="sm" value={colour} onChange={setColour} />
        )}
        {words.map((was, k) => (
          <TextInput
            key={was}
            label={words.length > 1 ? `Words: ${was.slice(0, 30)}` : "Words"}
            description="Empty: left out"
            maxLength={500}
            value={others[k]}
            onChange={(e) => setOthers(others.map((w, j) => (j === k ? e.currentTarget.value : w)))}
          />
        ))}
      </SimpleGrid>
      {order.error && (
        <p className={forms.wrong} role="alert">
          {order.error.message}
        </p>
      )}
      <Group justify="flex-end">
        <Button type="submit" data-autofocus loading={order.isPending}>
          Make the ticket
        </Button>
      </Group>
    </form>
  );
}
