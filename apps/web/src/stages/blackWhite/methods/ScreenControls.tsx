import { figure } from "@hardline/core/inspect/check";
import { DOT_NAMES, type DotShape } from "@hardline/core/screen/dotShapes";
import { type ScreenSettings } from "@hardline/core/dots/methods/screen";
import { Select } from "../../../shared/fields/controls";
import { Field, Sliding } from "../../../shared/fields/Field";
import css from "../../../shared/fields/Field.module.css";
import { DotControls } from "../DotControls";
import { type MethodProps } from "../methodPanel";

const TITLES: Record<DotShape, string> = {
  round: "Round",
  ellipse: "Ellipse",
  square: "Square",
  diamond: "Diamond",
  line: "Line",
};

/** Ruling, angle and dot shape of a screen. */
export function ScreenControls({ settings, change, finish }: MethodProps<ScreenSettings>) {
  const { linesPerInch, angle, dot } = settings;
  const most = finish ? Math.min(400, Math.floor(finish.dotsPerInch / 2)) : 400;
  const side = finish && finish.dotsPerInch / linesPerInch;
  return (
    <>
      <Sliding
        label="Lines"
        of="linesPerInch"
        unit="/in"
        decimals={1}
        value={linesPerInch}
        min={5}
        max={Math.min(100, most)}
        step={0.5}
        change={(v) => change({ linesPerInch: v })}
      />
      <Sliding
        label="Angle"
        of="angle"
        unit="°"
        decimals={1}
        value={angle}
        min={-90}
        max={90}
        step={0.5}
        change={(v) => change({ angle: v })}
      />
      <Field label="Dot" of="dot">
        <Select
          aria-label="Shape of the dot"
          data={DOT_NAMES.map((value) => ({ value, label: TITLES[value] }))}
          value={dot}
          onChange={(v) => change({ dot: v as DotShape })}
        />
      </Field>
      {side !== null && (
        <p className={css.note}>
          A cell has <b className="mono">{figure(side)}</b> × <b className="mono">{figure(side)}</b> dots,{" "}
          <b className="mono">{Math.floor(side * side + 1)}</b> tones of its own.
        </p>
      )}
      <DotControls {...{ settings, change, finish }} />
    </>
  );
}
