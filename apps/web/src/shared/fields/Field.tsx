import { NumberInput, Slider, Tooltip } from "@mantine/core";
import { type ReactNode } from "react";
import css from "./Field.module.css";

/** A labelled line of an open stage, with the fan that spreads the setting into a test strip where it has one. */
export function Field({ label, children, fan }: { label: string; children: ReactNode; fan?: () => void }) {
  return (
    <div className={css.field}>
      <span className={css.label}>{label}</span>
      <div className={css.control}>{children}</div>
      {fan && (
        <Tooltip label={`${label} as a test strip (S)`}>
          <button type="button" className={css.fan} onClick={fan} aria-label={`${label} as a test strip`}>
            <i />
            <i />
            <i />
          </button>
        </Tooltip>
      )}
    </div>
  );
}

interface SlidingProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly unit?: string;
  readonly decimals?: number;
  readonly change: (value: number) => void;
  readonly fan?: () => void;
}

/** A number to drag or to type. */
export function Sliding({
  label,
  value,
  min,
  max,
  step,
  unit = "",
  decimals = 0,
  change,
  fan,
}: SlidingProps) {
  return (
    <Field label={label} fan={fan}>
      <Slider
        className={css.slider}
        classNames={{ track: css.track, bar: css.bar, thumb: css.thumb }}
        thumbLabel={label}
        label={null}
        {...{ value, min, max, step }}
        onChange={change}
      />
      <NumberInput
        aria-label={`${label}, typed`}
        className={css.number}
        classNames={{ input: css.input }}
        {...{ value, min, max, step }}
        decimalScale={decimals}
        suffix={unit && ` ${unit}`}
        clampBehavior="blur"
        onChange={(v) => typeof v === "number" && v >= min && v <= max && change(v)}
      />
    </Field>
  );
}

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly value: T; readonly label: string; readonly tip?: string }[];
  readonly change: (value: T) => void;
}

/** One of a few, side by side. */
export function Choice<T extends string>({ label, value, options, change }: ChoiceProps<T>) {
  return (
    <div className={css.choice} role="radiogroup" aria-label={label}>
      {options.map((o) => (
        <button
          key={o.value}
          type="button"
          role="radio"
          aria-checked={o.value === value}
          title={o.tip}
          onClick={() => change(o.value)}
        >
          {o.label}
        </button>
      ))}
    </div>
  );
}
