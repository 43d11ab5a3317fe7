import { type DotSettings } from "@hardline/core/dots/dotSettings";
import { useState } from "react";
import { Choice, Field, Setting } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { CurveEditor } from "../tone/CurveEditor";

type Gain = DotSettings["gain"];

const STRAIGHT: Gain = [
  [0, 0],
  [1, 1],
];
/** A gain that many processes have: the middle comes out darker. */
const USUAL: Gain = [
  [0, 0],
  [0.5, 0.65],
  [1, 1],
];

/** How dots come out in the process: none, or a curve that is taken off beforehand. */
export function DotGain({ gain, change }: { gain: Gain; change: (gain: Gain) => void }) {
  const gained = gain.some(([made, seen]) => made !== seen);
  const [open, setOpen] = useState(gained);
  return (
    <>
      <Field label="Dot gain">
        <Choice
          label="Dot gain"
          value={gained || open ? "curve" : "none"}
          options={[
            { value: "none", label: "none" },
            {
              value: "curve",
              label: "by a curve",
              tip: "How the process prints each share of dots; taken off beforehand",
            },
          ]}
          change={(v) => {
            setOpen(v === "curve");
            change(v === "none" ? STRAIGHT : gained ? gain : USUAL);
          }}
        />
      </Field>
      {(gained || open) && (
        <>
          <Setting of="gain" title="Dot gain" className={css.wide}>
            <CurveEditor
              name="Dot gain"
              curve={gain as [number, number][]}
              histogram={null}
              fixedEnds
              change={change}
            />
          </Setting>
          <p className={css.note}>From dots made, left to right, to what they look like.</p>
        </>
      )}
    </>
  );
}
