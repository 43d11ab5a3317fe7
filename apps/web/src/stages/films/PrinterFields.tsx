import { figure } from "@hardline/core/inspect/check";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Select, Switch } from "../../shared/fields/controls";
import { Field } from "../../shared/fields/Field";
import { type BenchScene } from "../face";

/** How films are written: the printer's resolution, which side, and whether marks stand about the art. */
export function PrinterFields({
  scene: { set, finish },
  settings,
}: {
  scene: BenchScene;
  settings: FilmsSettings;
}) {
  const { printerDotsPerInch, mirror, marks } = settings;
  const own = finish?.dotsPerInch ?? 0;
  const times = printerDotsPerInch === undefined || own === 0 ? 1 : Math.round(printerDotsPerInch / own);
  return (
    <>
      <Field label="Film at">
        <Select
          aria-label="Dots per inch of the films"
          data={[1, 2, 3, 4, 6].map((n) => ({ value: String(n), label: `${figure(own * n)} dots/in` }))}
          value={String(times)}
          allowDeselect={false}
          onChange={(v) => set("films", { printerDotsPerInch: v === "1" ? undefined : own * Number(v) })}
        />
      </Field>
      <Field label="Mirrored">
        <Switch
          aria-label="Emulsion side: films are mirrored"
          checked={mirror}
          onChange={(e) => set("films", { mirror: e.currentTarget.checked })}
        />
      </Field>
      <Field label="Marks">
        <Switch
          aria-label="Register marks, names and a step wedge about the art"
          checked={marks}
          onChange={(e) => set("films", { marks: e.currentTarget.checked })}
        />
      </Field>
    </>
  );
}
