import { TextInput } from "@mantine/core";
import { Checkbox } from "../../shared/fields/controls";
import { Choice, Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import { type CutFieldsProps } from "./CutLinePanel";

/** How the machine runs the line: which way round, how far past its beginning, with what power; and the frame round it. */
export function MachineFields({ settings: { way, overcutMm, weedBoxMm, pass }, set }: CutFieldsProps) {
  return (
    <>
      <Field label="Way round">
        <Choice
          label="Which way round the outside is run"
          value={way}
          options={[
            { value: "clockwise", label: "clockwise" },
            { value: "counterclockwise", label: "counter" },
          ]}
          change={(next) => set({ way: next })}
        />
      </Field>
      <Field label="Overcut">
        <NumberField
          label="How far past its beginning a line goes on"
          value={overcutMm}
          unit="mm"
          min={0}
          max={10}
          step={0.1}
          change={(v) => set({ overcutMm: v })}
        />
      </Field>
      <Field label="Weed box">
        <Checkbox
          aria-label="A frame round the waste"
          checked={weedBoxMm !== undefined}
          onChange={(e) => set({ weedBoxMm: e.currentTarget.checked ? 3 : undefined })}
        />
        {weedBoxMm !== undefined && (
          <NumberField
            label="How far off the weed box lies"
            value={weedBoxMm}
            unit="mm off"
            min={0}
            max={100}
            change={(v) => set({ weedBoxMm: v })}
          />
        )}
      </Field>
      <Field label="Pass">
        <Checkbox
          aria-label="Runs with its own power and speed"
          checked={pass !== undefined}
          onChange={(e) =>
            set({ pass: e.currentTarget.checked ? { name: "cut", power: 50, speed: 20 } : undefined })
          }
        />
        {pass && (
          <TextInput
            aria-label="Name of the pass"
            value={pass.name}
            maxLength={40}
            onChange={(e) => {
              const name = e.currentTarget.value;
              if (name.trim()) set({ pass: { ...pass, name } });
            }}
          />
        )}
      </Field>
      {pass && (
        <Field label="">
          <NumberField
            label="Power"
            value={pass.power}
            unit="%"
            min={0}
            max={100}
            change={(v) => set({ pass: { ...pass, power: v } })}
          />
          <NumberField
            label="Speed"
            value={pass.speed}
            unit="mm/s"
            min={0.1}
            max={5000}
            change={(v) => set({ pass: { ...pass, speed: v } })}
          />
        </Field>
      )}
    </>
  );
}
