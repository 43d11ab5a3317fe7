import { Checkbox } from "../../shared/fields/controls";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import { type CutFieldsProps } from "./CutLinePanel";
import css from "./CutLine.module.css";

/** The picture cut to the line, and what is printed under it out to there. */
export function PrintFields({ settings: { print }, set }: CutFieldsProps) {
  if (!print)
    return (
      <Checkbox
        label="The picture cut to the line"
        checked={false}
        onChange={() => set({ print: { under: "colour", colour: "#ffffff", byMm: 0 } })}
      />
    );
  return (
    <>
      <Field label="Under it">
        <Choice
          label="What lies under the art"
          value={print.under}
          options={[
            { value: "colour", label: "colour", tip: "One colour out to the line" },
            { value: "edge", label: "bleed", tip: "The art's edge goes on outwards" },
            { value: "nothing", label: "nothing" },
          ]}
          change={(under) => set({ print: { ...print, under } })}
        />
        {print.under === "colour" && (
          <input
            type="color"
            className={css.colour}
            aria-label="Colour of the border"
            value={print.colour}
            onChange={(e) => set({ print: { ...print, colour: e.target.value } })}
          />
        )}
      </Field>
      <Sliding
        label="Beyond it"
        of="print.byMm"
        unit="mm"
        decimals={2}
        value={print.byMm}
        min={-3}
        max={5}
        step={0.1}
        change={(byMm) => set({ print: { ...print, byMm } })}
      />
      <Checkbox label="The picture cut to the line" checked onChange={() => set({ print: undefined })} />
    </>
  );
}
