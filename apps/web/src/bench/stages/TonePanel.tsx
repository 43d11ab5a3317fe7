import { settingsOf, type Route, type ToneSettings } from "@hardline/core";
import { type Inspected } from "../../engine/protocol";
import { type SetStage } from "../Docket";
import { CurveEditor } from "./CurveEditor";
import { Sliding } from "./Field";
import css from "./Field.module.css";

const PLAIN: ToneSettings["curve"] = [
  [0, 0],
  [1, 1],
];
/** Lifts the middle and rolls the top off: what a photograph needs before dots. */
const LIFTED: ToneSettings["curve"] = [
  [0, 0],
  [0.5, 0.6],
  [0.92, 0.95],
  [1, 0.98],
];

interface Props {
  readonly route: Route;
  readonly set: SetStage;
  readonly found: Inspected | null;
  /** Takes the stage off the route. */
  readonly leaveOut: () => void;
}

/** Levels, the curve over the histogram, and sharpening. */
export function TonePanel({ route, set, found, leaveOut }: Props) {
  const settings = settingsOf<ToneSettings>(route, "tone")!;
  const { black, white, curve, sharpen } = settings;
  return (
    <>
      <CurveEditor
        curve={curve}
        histogram={found?.before ?? null}
        change={(next) => set("tone", { curve: next })}
      />
      <p className={css.note}>
        Drag a point; click to add one, double-click to take it away.{" "}
        <button type="button" className={css.link} onClick={() => set("tone", { curve: LIFTED })}>
          Lift
        </button>{" "}
        <button type="button" className={css.link} onClick={() => set("tone", { curve: PLAIN })}>
          Straight
        </button>
      </p>
      <Sliding
        label="Black from"
        unit="%"
        value={Math.round(black * 100)}
        min={0}
        max={99}
        step={1}
        change={(v) => set("tone", { black: Math.min(v / 100, white - 0.01) })}
      />
      <Sliding
        label="White from"
        unit="%"
        value={Math.round(white * 100)}
        min={1}
        max={100}
        step={1}
        change={(v) => set("tone", { white: Math.max(v / 100, black + 0.01) })}
      />
      <Sliding
        label="Sharpen"
        unit="%"
        value={Math.round(sharpen.amount * 100)}
        min={0}
        max={300}
        step={5}
        change={(v) => set("tone", { sharpen: { ...sharpen, amount: v / 100 } })}
      />
      {sharpen.amount > 0 && (
        <Sliding
          label="Radius"
          unit="mm"
          decimals={2}
          value={sharpen.radiusMm}
          min={0.05}
          max={1}
          step={0.01}
          change={(v) => set("tone", { sharpen: { ...sharpen, radiusMm: v } })}
        />
      )}
      <p className={css.note}>
        <button type="button" className={css.link} onClick={leaveOut}>
          Leave Tone out
        </button>
      </p>
    </>
  );
}
