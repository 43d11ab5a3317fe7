import { TextInput, type TextInputProps } from "@mantine/core";
import { useId, useState, type KeyboardEvent } from "react";
import { steady } from "../steady";
import { useUnit } from "../unit";
import css from "./NumberField.module.css";
import { measureOf, readTyped, shownNumber, suffixOf } from "./measure";
import { useFitted } from "./useFitted";

interface Common {
  /** What it is, for whoever cannot see where it stands; shown above it with `shown`. */
  readonly label: string;
  readonly shown?: boolean;
  readonly min: number;
  readonly max: number;
  /** An arrow key's; ten times with Shift. */
  readonly step?: number;
  /** Stand before and behind the number. Lengths in "mm", "mm²", "mm/s" follow the unit that is set. */
  readonly prefix?: string;
  readonly unit?: string;
  readonly decimals?: number;
  readonly placeholder?: string;
  readonly disabled?: boolean;
  readonly className?: string;
  readonly size?: TextInputProps["size"];
}

interface Needed extends Common {
  readonly value: number;
  readonly change: (value: number) => void;
  readonly optional?: undefined;
}

/** A number that may be left open. */
interface Optional extends Common {
  readonly value: number | null;
  readonly change: (value: number | null) => void;
  readonly optional: true;
}

/**
 * A number to type. It is taken when the field is left, or with Enter, never half typed. One that is not allowed is told at
 * the field; when the field is left it shows again what is in force.
 */
export const NumberField = steady(Typed);

function Typed(props: Needed | Optional) {
  const { label, shown, value, min, max, step = 1, prefix = "", unit = "", decimals = 2 } = props;
  const { unit: length } = useUnit();
  const measure = measureOf(unit, decimals, length);
  const inForce = value === null ? "" : `${prefix}${shownNumber(value, measure)}${suffixOf(measure)}`;
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const about = useId();
  const input = useFitted(typed ?? inForce);
  /** Which side of the field what is told begins at, so that it stays in the window. */
  const [side, setSide] = useState<"left" | "right">("left");

  /** @returns what is wrong with it; null where it can be taken */
  const faultOf = (text: string): string | null => {
    const found = readTyped(text, measure, prefix);
    if (text.trim() === "" && props.optional) return null;
    if (found !== null && found >= min - SLACK && found <= max + SLACK) return null;
    const range = `${shownNumber(min, measure)} to ${shownNumber(max, measure)}${measure.unit && ` ${measure.unit}`}`;
    return `${JSON.stringify(text.trim())} is not taken; allowed: ${range}`;
  };
  const give = (next: number | null): void => {
    const bounded = next === null ? null : rounded(Math.min(max, Math.max(min, next)), decimals, measure.per);
    if (bounded === value) return;
    if (props.optional) props.change(bounded);
    else if (bounded !== null) props.change(bounded);
  };
  const take = (left: boolean): void => {
    if (typed === null) return setRefused(null);
    const fault = faultOf(typed);
    setRefused(fault);
    setSide((input.current?.getBoundingClientRect().left ?? 0) > window.innerWidth / 2 ? "right" : "left");
    if (fault === null && typed !== inForce) give(readTyped(typed, measure, prefix));
    if (fault === null || left) setTyped(null);
  };
  const keys = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === "Enter") return take(false);
    if (event.key === "Escape" && typed !== null) {
      event.stopPropagation();
      setRefused(null);
      return setTyped(null);
    }
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!way || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    const from =
      typed === null || faultOf(typed) !== null ? (value ?? min) : (readTyped(typed, measure, prefix) ?? min);
    setTyped(null);
    setRefused(null);
    give(from + way * step * (event.shiftKey ? 10 : 1));
  };
  return (
    <TextInput
      ref={input}
      label={shown ? label : undefined}
      aria-label={shown ? undefined : label}
      className={`${css.field} ${props.className ?? ""}`}
      classNames={{ input: css.input, error: css.error }}
      size={props.size ?? (shown ? "sm" : "xs")}
      inputMode="decimal"
      autoComplete="off"
      placeholder={props.placeholder}
      disabled={props.disabled}
      value={typed ?? inForce}
      error={refused && <span role="alert">{refused}</span>}
      errorProps={{ id: about, "data-side": side }}
      aria-describedby={refused ? about : undefined}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => {
        setTyped(e.currentTarget.value);
        if (refused) setRefused(faultOf(e.currentTarget.value));
      }}
      onKeyDown={keys}
      onBlur={() => take(true)}
    />
  );
}

/** Shown in inches, the ends of a range are not quite where they are in millimetres. */
const SLACK = 1e-3;

/** Typed in its own unit a number keeps the decimals that it is shown with; in another, as many as it needs. */
const rounded = (value: number, decimals: number, per: number): number =>
  per === 1 ? Number(value.toFixed(decimals + 2)) : Number(value.toFixed(4));
