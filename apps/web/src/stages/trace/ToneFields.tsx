import { type TraceSettings } from "@hardline/core/stage/trace/settings";
import { Select } from "../../shared/fields/controls";
import { Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Trace.module.css";

const CHOICES = [
  { value: "1", label: "Black only" },
  ...[2, 3, 4, 5, 6].map((n) => ({ value: String(n), label: `${n} tones of grey` })),
  { value: "colours", label: "Colours that I pick" },
];
const FIRST = ["#15181d", "#b3261e"];

/** How many tones, or which colours, each become shapes of their own; and how far the lighter reach under the darker. */
export function ToneFields({ scene: { set }, settings }: { scene: BenchScene; settings: TraceSettings }) {
  const { tones, trapMm, from } = settings;
  if (from === "blackWhite") return null;
  const colours = Array.isArray(tones) ? tones : null;
  const put = (next: TraceSettings["tones"]) => set("trace", { tones: next });
  return (
    <>
      <Field label="Tones">
        <Select
          aria-label="Tones that are traced"
          data={CHOICES}
          value={colours ? "colours" : String(tones)}
          allowDeselect={false}
          onChange={(v) => put(v === "colours" ? FIRST : Number(v))}
        />
      </Field>
      {colours && (
        <Field label="">
          <div className={css.colours}>
            {colours.map((colour, k) => (
              <input
                key={k}
                type="color"
                aria-label={`Colour ${k + 1}`}
                value={colour}
                onChange={(e) => put(colours.map((c, j) => (j === k ? e.target.value : c)))}
              />
            ))}
            {colours.length < 6 && (
              <button type="button" className={field.link} onClick={() => put([...colours, "#888888"])}>
                Add
              </button>
            )}
            {colours.length > 2 && (
              <button type="button" className={field.link} onClick={() => put(colours.slice(0, -1))}>
                Less
              </button>
            )}
          </div>
        </Field>
      )}
      {tones !== 1 && (
        <Sliding
          label="Trap"
          of="trapMm"
          unit="mm"
          decimals={2}
          value={trapMm}
          min={0}
          max={1}
          step={0.02}
          change={(v) => set("trace", { trapMm: v })}
        />
      )}
    </>
  );
}
