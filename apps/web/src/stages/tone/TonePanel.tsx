import { settingsOf } from "@hardline/core/route/route";
import { type ToneSettings } from "@hardline/core/stage/tone/settings";
import { Setting, Sliding } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { readingsOf, type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import { CurveEditor } from "./CurveEditor";

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

/** Levels, the curve over the histogram, and sharpening. */
export function TonePanel({ scene }: PanelProps) {
  const { route, set } = scene;
  const settings = settingsOf(route, "tone")!;
  const before = readingsOf(scene, "tone")?.histogramBefore as readonly number[] | undefined;
  const { black, white, curve, sharpen } = settings;
  return (
    <>
      <Setting of="curve" title="Curve" className={css.wide}>
        <CurveEditor
          curve={curve}
          histogram={before ?? null}
          change={(next) => set("tone", { curve: next })}
        />
      </Setting>
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
        of="black"
        scale={100}
        unit="%"
        value={Math.round(black * 100)}
        min={0}
        max={99}
        step={1}
        change={(v) => set("tone", { black: Math.min(v / 100, white - 0.01) })}
      />
      <Sliding
        label="White from"
        of="white"
        scale={100}
        unit="%"
        value={Math.round(white * 100)}
        min={1}
        max={100}
        step={1}
        change={(v) => set("tone", { white: Math.max(v / 100, black + 0.01) })}
      />
      <Sliding
        label="Sharpen"
        of="sharpen.amount"
        scale={100}
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
          of="sharpen.radiusMm"
          unit="mm"
          decimals={2}
          value={sharpen.radiusMm}
          min={0.05}
          max={1}
          step={0.01}
          change={(v) => set("tone", { sharpen: { ...sharpen, radiusMm: v } })}
        />
      )}
      <LeaveOut scene={scene} stage="tone" />
    </>
  );
}
