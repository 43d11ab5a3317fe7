import { type CustomerRecord, type ReceiptView } from "@hardline/contract";
import { Button, Group, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useCustomerChange } from "../api/customers";
import forms from "../shared/forms.module.css";
import css from "./Customers.module.css";
import { receiptLines } from "./receipt";

/** Removing all that is kept of a customer: asked for by typing the name, answered with a receipt. */
export function RemoveCustomer({ customer, close }: { customer: CustomerRecord; close: () => void }) {
  const { remove } = useCustomerChange();
  const navigate = useNavigate();
  const [typed, setTyped] = useState("");
  const receipt = remove.data;
  if (receipt)
    return (
      <Modal opened onClose={() => void navigate("/customers")} title="Removed for good" size="lg">
        <div className={forms.form}>
          <p className={forms.note}>This receipt is shown now and never again: nothing of it is kept.</p>
          <pre className={css.receipt}>{receiptLines(receipt).join("\n")}</pre>
          <Group justify="flex-end">
            <Button variant="default" onClick={() => saveReceipt(receipt)}>
              Save the receipt
            </Button>
            <Button onClick={() => void navigate("/customers")}>Done</Button>
          </Group>
        </div>
      </Modal>
    );
  return (
    <Modal opened onClose={close} title={`Remove ${customer.name} for good`}>
      <form
        className={forms.form}
        onSubmit={(e) => {
          e.preventDefault();
          remove.mutate(customer.id);
        }}
      >
        <p className={forms.note}>
          {customer.tickets} {customer.tickets === 1 ? "ticket" : "tickets"} with routes, history, files and
          runs, artwork and photographs that nobody else has, down to the bytes. This cannot be undone. Export
          all first if it may be wanted.
        </p>
        <TextInput
          data-autofocus
          label={`Type the name to go on: ${customer.name}`}
          value={typed}
          onChange={(e) => setTyped(e.currentTarget.value)}
        />
        {remove.error && (
          <p className={forms.wrong} role="alert">
            {remove.error.message}
          </p>
        )}
        <Group justify="flex-end">
          <Button
            type="submit"
            color="red"
            loading={remove.isPending}
            disabled={typed.trim() !== customer.name}
          >
            Remove for good
          </Button>
        </Group>
      </form>
    </Modal>
  );
}

function saveReceipt(receipt: ReceiptView): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([receiptLines(receipt).join("\n")], { type: "text/plain" }));
  link.download = `removed-customer-${receipt.customerId}.txt`;
  link.click();
  URL.revokeObjectURL(link.href);
}
