import { type CustomerView } from "@hardline/contract";
import { Button, Group, Modal, SimpleGrid, Textarea, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import { useNavigate } from "react-router";
import { useCustomerChange } from "../api/customers";
import forms from "../shared/forms.module.css";

/** What is written down of a customer. */
export function CustomerForm({ customer, close }: { customer: CustomerView | null; close: () => void }) {
  const { add, change } = useCustomerChange();
  const navigate = useNavigate();
  const form = useForm({
    initialValues: {
      name: customer?.name ?? "",
      email: customer?.email ?? "",
      phone: customer?.phone ?? "",
      address: customer?.address ?? "",
      note: customer?.note ?? "",
    },
    validate: { name: (v) => (v.trim() ? null : "Name is needed") },
  });
  const error = add.error ?? change.error;
  return (
    <Modal opened onClose={close} title={customer?.name ?? "New customer"} size="lg">
      <form
        className={forms.form}
        onSubmit={form.onSubmit((values) => {
          const json = { ...values, name: values.name.trim() };
          if (customer) return change.mutate({ id: customer.id, ...json }, { onSuccess: close });
          add.mutate(json, { onSuccess: ({ id }) => void navigate(`/customers/${id}`) });
        })}
      >
        <SimpleGrid cols={2} spacing="sm">
          <TextInput data-autofocus label="Name" maxLength={120} {...form.getInputProps("name")} />
          <TextInput label="Telephone" maxLength={80} {...form.getInputProps("phone")} />
          <TextInput label="Mail" maxLength={200} {...form.getInputProps("email")} />
        </SimpleGrid>
        <Textarea label="Address" autosize minRows={2} maxLength={500} {...form.getInputProps("address")} />
        <Textarea
          label="Note"
          description="What whoever takes the next order should know"
          autosize
          minRows={3}
          maxLength={4000}
          {...form.getInputProps("note")}
        />
        {error && (
          <p className={forms.wrong} role="alert">
            {error.message}
          </p>
        )}
        <Group justify="flex-end">
          <Button type="submit" loading={add.isPending || change.isPending}>
            Save
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
