import { type MaterialBody, type MaterialView } from "@hardline/contract";
import { ANSWERS, GRAINS, PATTERNS } from "@hardline/core/material/material";
import { MATERIAL_NUMBERS, type MaterialNumber } from "@hardline/core/material/numbers";
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
  const number = (name: MaterialNumber["name"]) => {
    const { words, unit, decimals, least, most } = MATERIAL_NUMBERS.find((one) => one.name === name)!;
    return (
      <NumberField
        key={name}
        shown
        {...{ label: words, unit, decimals, min: least, max: most }}
        value={form.values[name]}
        change={(v) => form.setFieldValue(name, v)}
      />
    );
  };
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
          {(["dotsPerInch", "dotMm", "gapMm", "strokeMm"] as const).map(number)}
          <Select
            label="Preferred pattern"
            size="sm"
            data={[...PATTERNS]}
            {...form.getInputProps("pattern")}
          />
          {(["linesPerInch", "spreadMm"] as const).map(number)}
          <ColorInput label="Colour, bare" size="sm" {...form.getInputProps("bareColour")} />
          <ColorInput label="Colour, marked" size="sm" {...form.getInputProps("markColour")} />
          <Select label="Grain" size="sm" data={[...GRAINS]} {...form.getInputProps("grain")} />
          {number("grainStrength")}
          <div className={css.preview}>
            <Swatch material={form.values} />
            <span>Bare to marked, as the light table shows it.</span>
          </div>
        </SimpleGrid>
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
