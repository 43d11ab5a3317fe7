import { type MaterialBody, type MaterialView } from "@hardline/contract";
import { ANSWERS, GRAINS, PATTERNS } from "@hardline/core/material/material";
import { LEAST_DPI, MOST_DPI } from "@hardline/core/maths/units";
import { Button, ColorInput, Group, Modal, Select, SimpleGrid, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import { Refusal } from "../api/client";
import { useMaterialChange } from "../api/house";
import { NumberField } from "../shared/fields/NumberField";
import { tellFault } from "../shared/tell";
import css from "./Materials.module.css";
import { Swatch } from "./Swatch";

const FRESH: MaterialBody = {
  ...{ name: "", answer: "burns dark", dotsPerInch: 254, dotMm: 0.1, gapMm: 0.1, strokeMm: 0.15 },
  ...{ pattern: "scatter", linesPerInch: 35, bareColour: "#d8c9ae", markColour: "#3a2a1c" },
  ...{ grain: "none", grainStrength: 0.3, spreadMm: 0.02 },
};

/** Numbers of a material: name, label, unit, decimals, least and most. */
const NUMBERS = [
  ["dotsPerInch", "Resolution", "dots/in", 2, LEAST_DPI, MOST_DPI],
  ["dotMm", "Smallest mark", "mm", 3, 0.005, 5],
  ["gapMm", "Smallest gap", "mm", 3, 0.005, 5],
  ["strokeMm", "Thinnest stroke", "mm", 3, 0.005, 5],
  ["linesPerInch", "Screen ruling", "lines/in", 1, 1, 400],
  ["spreadMm", "A mark spreads by", "mm", 3, 0, 1],
  ["grainStrength", "Strength", "", 2, 0, 1],
] as const;

const colour = (v: string) => (/^#[0-9a-f]{6}$/.test(v) ? null : "# and six digits");

/** What is written down of one material. */
export function MaterialForm({ material, close }: { material: MaterialView | null; close: () => void }) {
  const { save, remove } = useMaterialChange();
  const {
    key: _key,
    version: _version,
    inUse: _inUse,
    curve: _curve,
    ...known
  } = material ?? { ...FRESH, key: "", version: 0, inUse: 0, curve: null };
  const form = useForm<MaterialBody>({
    initialValues: known,
    validate: {
      name: (v) => (v.trim() ? null : "A material needs a name"),
      bareColour: colour,
      markColour: colour,
    },
  });
  const failed = (error: unknown) =>
    tellFault(
      "The material was not changed",
      error instanceof Refusal ? new Error(error.problem.detail) : error,
    );
  const number = ([name, label, unit, decimals, min, max]: (typeof NUMBERS)[number]) => (
    <NumberField
      key={name}
      shown
      {...{ label, unit, decimals, min, max }}
      value={form.values[name]}
      change={(v) => form.setFieldValue(name, v)}
    />
  );
  return (
    <Modal opened onClose={close} title={material ? material.name : "New material"} size="lg">
      <form
        onSubmit={form.onSubmit((body) =>
          save.mutate(
            { key: material?.key, version: material?.version, body: { ...body, name: body.name.trim() } },
            { onSuccess: close, onError: failed },
          ),
        )}
      >
        <SimpleGrid cols={3} spacing="sm">
          <TextInput label="Name" data-autofocus maxLength={60} {...form.getInputProps("name")} />
          <Select label="Polarity" size="sm" data={[...ANSWERS]} {...form.getInputProps("answer")} />
          {NUMBERS.slice(0, 4).map(number)}
          <Select
            label="Preferred pattern"
            size="sm"
            data={[...PATTERNS]}
            {...form.getInputProps("pattern")}
          />
          {NUMBERS.slice(4, 6).map(number)}
          <ColorInput label="Colour, bare" size="sm" {...form.getInputProps("bareColour")} />
          <ColorInput label="Colour, marked" size="sm" {...form.getInputProps("markColour")} />
          <Group gap="xs" grow>
            <Select label="Grain" size="sm" data={[...GRAINS]} {...form.getInputProps("grain")} />
            {number(NUMBERS[6])}
          </Group>
        </SimpleGrid>
        <div className={css.preview}>
          <Swatch material={form.values} />
          <span>Bare to marked, as the light table shows it.</span>
        </div>
        <Group justify="space-between" mt="md">
          {material ? (
            <Button
              variant="default"
              disabled={material.inUse > 0}
              title={material.inUse > 0 ? `In use on ${material.inUse} routes` : undefined}
              onClick={() => remove.mutate(material.key, { onSuccess: close, onError: failed })}
            >
              Remove
            </Button>
          ) : (
            <span />
          )}
          <Button type="submit" loading={save.isPending}>
            Save
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
