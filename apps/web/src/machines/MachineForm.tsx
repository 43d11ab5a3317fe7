import { type MachineView } from "@hardline/contract";
import { machineSchema, profileNumbers, type Machine } from "@hardline/core/machine/machine";
import { Button, Group, Modal, SimpleGrid, TextInput } from "@mantine/core";
import { useState } from "react";
import { useMachineChange } from "../api/machines";
import { NumberField } from "../shared/fields/NumberField";
import css from "./Machines.module.css";
import { tellFault } from "../shared/tell";

type Tree = { [key: string]: Tree | unknown };
const readAt = (tree: Tree, path: string): unknown =>
  path.split(".").reduce<unknown>((at, key) => (at as Tree | undefined)?.[key], tree);
const putAt = (tree: Tree, [key, ...rest]: readonly string[], value: unknown): Tree => ({
  ...tree,
  [key]: rest.length > 0 ? putAt((tree[key] ?? {}) as Tree, rest, value) : value,
});

/** What is written down of one machine. */
export function MachineForm({ known, close }: { known: MachineView; close: () => void }) {
  const { save, remove } = useMachineChange();
  const [machine, setMachine] = useState<Machine>(known.machine);
  const [where, setWhere] = useState({ host: known.host, port: known.port });
  const tree = machine as unknown as Tree;
  const set = (path: string, value: unknown) =>
    setMachine(putAt(tree, path.split("."), value) as unknown as Machine);
  const [asked, setAsked] = useState(false);
  const away = (): void =>
    remove.mutate(known.machine.key, {
      onSuccess: close,
      onError: (e) => tellFault("The machine was not removed", e),
    });
  const send = (): void => {
    const read = machineSchema.safeParse(machine);
    if (!read.success) {
      const [{ path, message }] = read.error.issues;
      return tellFault("The machine was not changed", new Error(`${path.join(".")}: ${message}`));
    }
    save.mutate(
      { ...known, ...where, machine: read.data },
      { onSuccess: close, onError: (e) => tellFault("The machine was not changed", e) },
    );
  };
  return (
    <Modal opened onClose={close} title={known.machine.name} size="xl">
      <SimpleGrid cols={4} spacing="sm">
        <TextInput
          label="Name"
          maxLength={60}
          value={machine.name}
          onChange={(e) => set("name", e.target.value)}
        />
        {profileNumbers(machine).map(({ of, label, unit, min, max }) => (
          <NumberField
            key={of}
            shown
            {...{ label, unit, min, max }}
            decimals={3}
            value={readAt(tree, of) as number}
            change={(v) => set(of, v)}
          />
        ))}
        {"dotsPerInch" in machine && (
          <TextInput
            className={css.wide}
            label="Dots per inch"
            defaultValue={machine.dotsPerInch.join(", ")}
            onBlur={(e) =>
              set(
                "dotsPerInch",
                e.target.value
                  .split(/[,\s]+/)
                  .map(Number)
                  .filter(Number.isFinite),
              )
            }
          />
        )}
        <TextInput
          label="Address"
          value={where.host}
          onChange={(e) => setWhere({ ...where, host: e.target.value })}
        />
        <NumberField
          label="Port"
          shown
          decimals={0}
          min={1}
          max={65535}
          value={where.port}
          change={(port) => setWhere({ ...where, port: Math.round(port) })}
        />
      </SimpleGrid>
      <Group justify="space-between" mt="md">
        <Button
          variant="default"
          title="Its runs that have ended stay"
          loading={remove.isPending}
          onClick={() => (asked ? away() : setAsked(true))}
        >
          {asked ? "Yes, remove it" : "Remove"}
        </Button>
        <Button onClick={send} loading={save.isPending}>
          Save
        </Button>
      </Group>
    </Modal>
  );
}
