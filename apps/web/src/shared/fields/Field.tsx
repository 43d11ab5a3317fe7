import { createContext, useContext, type ReactNode } from "react";
import { Slider } from "./controls";
import css from "./Field.module.css";
import { NumberField } from "./NumberField";

/** A setting as a control names it: the names that lead to it, and how it is shown. */
export interface Named {
  readonly path: string;
  readonly title: string;
  readonly unit?: string;
  /** What is shown is the value times this. */
  readonly scale?: number;
}

/** Spreads a setting of the open stage out into a test strip; null where that cannot be done. */
export const SpreadOut = createContext<((setting: Named) => void) | null>(null);

/** Names that stand before those of the settings inside, such as "ops.2". */
export const Under = createContext("");

interface FieldProps {
  readonly label: string;
  readonly children: ReactNode;
  /** The names that lead to the setting, such as "sharpen.amount": it can then be spread out (T). */
  readonly of?: string;
  readonly unit?: string;
  readonly scale?: number;
}

/** A labelled line of an open stage. */
export function Field({ label, children, of, unit, scale }: FieldProps) {
  return (
    <Setting {...{ of, unit, scale }} title={label} className={css.field}>
      <span className={css.label}>{label}</span>
      <div className={css.control}>{children}</div>
    </Setting>
  );
}

interface SettingProps extends Omit<FieldProps, "label"> {
  readonly title: string;
  readonly className?: string;
}

/** What shows one setting. It says which, so that a key can spread it out, and has a button that does. */
export function Setting({ of, title, unit, scale, className, children }: SettingProps) {
  const spread = useContext(SpreadOut);
  const under = useContext(Under);
  if (!of || !spread) return <div className={className}>{children}</div>;
  const path = under ? `${under}.${of}` : of;
  return (
    <div
      className={`${className ?? ""} ${css.setting}`}
      data-setting={path}
      data-title={title}
      data-unit={unit}
      data-scale={scale}
    >
      {children}
      <button
        type="button"
        className={css.fan}
        tabIndex={-1}
        title={`${title} as a test strip (T)`}
        aria-label={`${title} as a test strip`}
        onClick={() => spread({ path, title, unit, scale })}
      >
        <i />
        <i />
        <i />
      </button>
    </div>
  );
}

/** The setting whose control something is in; null where it is in none. */
export function settingAround(element: Element | null): Named | null {
  const own = element?.closest<HTMLElement>("[data-setting]");
  if (!own) return null;
  const { setting, title, unit, scale } = own.dataset;
  return { path: setting!, title: title!, unit, scale: scale ? Number(scale) : undefined };
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
  readonly of?: string;
  readonly scale?: number;
}

const PARTS = { track: css.track, bar: css.bar, thumb: css.thumb };

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
  of,
  scale,
}: SlidingProps) {
  return (
    <Field {...{ label, of, unit, scale }}>
      <Slider
        className={css.slider}
        classNames={PARTS}
        thumbLabel={label}
        label={null}
        {...{ value, min, max, step }}
        onChange={change}
      />
      <NumberField
        label={`${label}, typed`}
        className={css.number}
        {...{ value, min, max, step, decimals, unit, change }}
      />
    </Field>
  );
}

interface PercentProps {
  readonly label: string;
  /** 0..1; shown times a hundred. */
  readonly value: number;
  /** In percent. */
  readonly max?: number;
  readonly step?: number;
  readonly change: (value: number) => void;
  readonly of: string;
}

/** A share to drag or to type, in percent. */
export const Percent = ({ value, max = 100, step = 5, change, ...props }: PercentProps) => (
  <Sliding
    {...props}
    {...{ max, step }}
    unit="%"
    scale={100}
    value={Math.round(100 * value)}
    min={0}
    change={(v) => change(v / 100)}
  />
);

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
