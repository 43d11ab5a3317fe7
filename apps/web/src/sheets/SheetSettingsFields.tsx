import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { type SheetBody } from "@hardline/core/sheet/sheetFile";
import { Checkbox, Select, TextInput } from "@mantine/core";
import bay from "../shell/bay/Bay.module.css";
import { Choice, Field } from "../shared/fields/Field";
import { NumberField } from "../shared/fields/NumberField";
import { steady } from "../shared/steady";
import { type SheetWork } from "./useSheetWork";

interface Props {
  readonly body: SheetBody;
  readonly name: string;
  readonly machines: readonly Machine[];
  readonly put: SheetWork["put"];
}

/** Stock, room and turning. What is changed holds from the next arranging on. */
export const SheetSettingsFields = steady(Fields);

function Fields({ body, name, machines, put }: Props) {
  const set = (change: Partial<SheetBody>) => put({ body: { ...body, ...change } });
  const stock = (change: Partial<SheetBody["stock"]>) => set({ stock: { ...body.stock, ...change } });
  const machine = machines.find((m) => m.key === body.machine);
  // The machine's own entry says what its marks are.
  const marks = (machine && machineKindOf(machine).marks?.(machine)) ?? true;
  return (
    <div className={bay.block}>
      <h2>Sheet</h2>
      <TextInput
        aria-label="Name of the sheet"
        defaultValue={name}
        maxLength={120}
        onBlur={(e) =>
          e.target.value.trim() && e.target.value !== name && put({ name: e.target.value.trim() })
        }
      />
      <Field label="Machine">
        <Select
          aria-label="Machine"
          placeholder="none yet"
          data={machines.map((m) => ({ value: m.key, label: m.name }))}
          value={body.machine ?? null}
          allowDeselect
          onChange={(key) => set({ machine: key ?? undefined })}
        />
      </Field>
      <Field label="Stock">
        <NumberField
          label="Stock, across"
          unit="mm"
          value={body.stock.widthMm}
          min={20}
          max={5000}
          change={(widthMm) => stock({ widthMm })}
        />
        <NumberField
          label="Stock, down"
          unit="mm"
          value={body.stock.heightMm}
          min={20}
          max={20000}
          change={(heightMm) => stock({ heightMm })}
        />
      </Field>
      <Field label="Stock is">
        <Choice
          label="Stock is"
          value={body.stock.roll ? "roll" : "sheets"}
          options={[
            { value: "sheets", label: "sheets" },
            { value: "roll", label: "a roll" },
          ]}
          change={(v) => stock({ roll: v === "roll" })}
        />
        <NumberField
          label="Sheets at hand"
          unit="at hand"
          decimals={0}
          value={body.stock.sheets}
          min={1}
          max={200}
          change={(sheets) => stock({ sheets })}
        />
      </Field>
      <Field label="Margin">
        <NumberField
          label="Margin"
          unit="mm"
          value={body.marginMm}
          min={0}
          max={500}
          change={(marginMm) => set({ marginMm })}
        />
      </Field>
      <Field label="Spacing">
        <NumberField
          label="Spacing"
          unit="mm"
          value={body.spacingMm}
          min={0}
          max={200}
          change={(spacingMm) => set({ spacingMm })}
        />
      </Field>
      <Field label="Turning">
        <Choice
          label="Turning"
          value={body.turn}
          options={[
            { value: "free", label: "quarters" },
            { value: "half", label: "half", tip: "Upside down only" },
            { value: "none", label: "grain", tip: "All lie with the grain" },
          ]}
          change={(turn) => set({ turn })}
        />
      </Field>
      <Field label="Bleed">
        <NumberField
          label="Bleed"
          unit="mm"
          value={body.bleedMm}
          min={0}
          max={20}
          change={(bleedMm) => set({ bleedMm })}
        />
      </Field>
      <Checkbox
        label="Register marks"
        checked={body.marks !== false}
        onChange={(e) => set({ marks: e.target.checked ? marks : false })}
      />
      <Checkbox
        label="May lie mirrored"
        checked={body.mirror}
        onChange={(e) => set({ mirror: e.target.checked })}
      />
      <Checkbox
        label="Rectangles share lines"
        checked={body.commonLines}
        onChange={(e) =>
          set({ commonLines: e.target.checked, ...(e.target.checked ? { spacingMm: 0 } : {}) })
        }
      />
    </div>
  );
}
