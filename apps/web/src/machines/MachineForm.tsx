import { type MachineView } from "@hardline/contract";
import { machineSchema, type Machine } from "@hardline/core";
import { Button, Group, Modal, NumberInput, SimpleGrid, TextInput } from "@mantine/core";
import { useState } from "react";
import { useMachineChange } from "../api/machines";
import css from "./Machines.module.css";
import { tellFault } from "../shared/tell";

/** Numbers that may be set, by the names that lead to them; only those that the machine has are shown. */
const NUMBERS: readonly (readonly [path: string, label: string, unit: string])[] = [
  ["bed.widthMm", "Bed, across", "mm"],
  ["bed.heightMm", "Bed, down", "mm"],
  ["travelMmPerS", "Travel", "mm/s"],
  ["accelMmPerS2", "Speeds up by", "mm/s²"],
  ["cornerMm", "Corners rounded by", "mm"],
  ["margins.leftMm", "Not reached, left", "mm"],
  ["margins.rightMm", "Not reached, right", "mm"],
  ["margins.topMm", "Not reached, top", "mm"],
  ["margins.bottomMm", "Not reached, bottom", "mm"],
  ["burnMmPerS", "Rows", "mm/s"],
  ["scoreMmPerS", "Scores", "mm/s"],
  ["cutMmPerS", "Cuts", "mm/s"],
  ["responseMs", "Beam answers after", "ms"],
  ["bladeOffsetMm", "Blade behind by", "mm"],
  ["overcutMm", "Overcut", "mm"],
  ["liftMs", "Lifts in", "ms"],
  ["marks.sizeMm", "Mark, size", "mm"],
  ["marks.insetMm", "Mark, from the edge", "mm"],
  ["marks.clearMm", "Clear round a mark", "mm"],
  ["printMmPerS", "Prints", "mm/s"],
  ["swathDots", "Rows at once", ""],
];

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
        {NUMBERS.filter(([path]) => typeof readAt(tree, path) === "number").map(([path, label, unit]) => (
          <NumberInput
            key={path}
            size="sm"
            label={label}
            suffix={unit && ` ${unit}`}
            value={readAt(tree, path) as number}
            onChange={(v) => typeof v === "number" && set(path, v)}
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
        <NumberInput
          size="sm"
          label="Port"
          value={where.port}
          onChange={(v) => typeof v === "number" && setWhere({ ...where, port: v })}
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
