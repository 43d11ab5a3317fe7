import {
  figure,
  mmOfDots,
  type DotSettings,
  type Finish,
  type ScatterSettings,
  type Side,
} from "@hardline/core";
import { NumberInput } from "@mantine/core";
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
        label="Least mark"
        of="smallestMark"
        side={smallestMark}
        finish={finish}
        change={(v) => change({ smallestMark: v })}
      />
      <SideField
        label="Least gap"
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
      <NumberInput
        aria-label={label}
        className={css.number}
        classNames={{ input: css.input }}
        value={inDots ? side : side.mm}
        min={inDots ? 1 : 0.005}
        max={inDots ? 64 : 10}
        step={inDots ? 1 : 0.05}
        decimalScale={inDots ? 0 : 3}
        suffix={inDots ? "" : " mm"}
        onChange={(v) => {
          if (typeof v !== "number" || v <= 0) return;
          if (inDots && v >= 1 && v <= 64) change(v);
          if (!inDots && v >= 0.005 && v <= 10) change({ mm: v });
        }}
      />
    </Field>
  );
}
