import { figure } from "@hardline/core/inspect/check";
import { mmOfDots } from "@hardline/core/maths/units";
import { type Finish } from "@hardline/core/result/finish";
import { type DotSettings, type Side } from "@hardline/core/dots/dotSettings";
import { type ScatterSettings } from "@hardline/core/dots/methods/scatter";
import { NumberField } from "../../shared/fields/NumberField";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { DotGain } from "./DotGain";

type Settings = Pick<ScatterSettings, keyof DotSettings>;

interface Props {
  readonly settings: Settings;
  readonly change: (settings: Partial<Settings>) => void;
  readonly finish: Finish | null;
}

/** What every way to dots has: what is held, the smallest mark and gap, and how dots come out. */
export function DotControls({ settings, change, finish }: Props) {
  const { gain, holdHighlight, holdShadow, smallestMark, smallestGap } = settings;
  return (
    <>
      <Sliding
        label="Hold light"
        of="holdHighlight"
        unit="%"
        decimals={1}
        value={holdHighlight}
        min={0}
        max={20}
        step={0.5}
        change={(v) => change({ holdHighlight: v })}
      />
      <Sliding
        label="Hold dark"
        of="holdShadow"
        unit="%"
        decimals={1}
        value={holdShadow}
        min={0}
        max={20}
        step={0.5}
        change={(v) => change({ holdShadow: v })}
      />
      <SideField
        label="Smallest mark"
        of="smallestMark"
        side={smallestMark}
        finish={finish}
        change={(v) => change({ smallestMark: v })}
      />
      <SideField
        label="Smallest gap"
        of="smallestGap"
        side={smallestGap}
        finish={finish}
        change={(v) => change({ smallestGap: v })}
      />
      <DotGain gain={gain} change={(v) => change({ gain: v as Settings["gain"] })} />
    </>
  );
}

interface SideProps {
  readonly label: string;
  readonly of: string;
  readonly side: Side;
  readonly finish: Finish | null;
  readonly change: (side: Side) => void;
}

/** A length in dots or in millimetres. */
function SideField({ label, of, side, finish, change }: SideProps) {
  const inDots = typeof side === "number";
  return (
    <Field label={label} of={inDots ? of : `${of}.mm`} unit={inDots ? "dots" : "mm"}>
      <Choice
        label={`${label} in`}
        value={inDots ? "dots" : "mm"}
        options={[
          { value: "dots", label: "dots" },
          { value: "mm", label: "mm" },
        ]}
        change={(unit) => {
          if (!finish || (unit === "dots") === inDots) return;
          change(
            unit === "mm"
              ? { mm: Number(figure(mmOfDots(side as number, finish), 3)) }
              : Math.max(
                  1,
                  Math.min(64, Math.round(((side as { mm: number }).mm * finish.widthPx) / finish.widthMm)),
                ),
          );
        }}
      />
      <NumberField
        label={label}
        className={css.number}
        {...(inDots
          ? { value: side, min: 1, max: 64, decimals: 0 }
          : { value: side.mm, min: 0.005, max: 10, step: 0.05, decimals: 3, unit: "mm" })}
        change={(v) => change(inDots ? Math.round(v) : { mm: v })}
      />
    </Field>
  );
}
