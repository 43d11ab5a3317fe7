import { type ColourChange } from "@hardline/core/recolour/change";
import { useState } from "react";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import css from "./Colourways.module.css";

interface Props {
  readonly change: ColourChange;
  readonly number: number;
  readonly put: (change: ColourChange) => void;
  readonly remove: () => void;
}

const UNMOVED = { hue: 0, saturation: 1, lightness: 0 };

/** A range of colours, and what it becomes. */
export function ChangeFields({ change, number, put, remove }: Props) {
  const [open, setOpen] = useState(false);
  const { from, tolerance, softness, to } = change;
  const kind = "colour" in to ? "colour" : "moved";
  return (
    <div>
      <div className={css.change}>
        <input
          type="color"
          aria-label={`Colour ${number} that is changed`}
          value={from}
          onChange={(e) => put({ ...change, from: e.target.value })}
        />
        <span className={css.arrow} aria-hidden>
          becomes
        </span>
        {"colour" in to ? (
          <input
            type="color"
            aria-label={`What colour ${number} becomes`}
            value={to.colour}
            onChange={(e) => put({ ...change, to: { colour: e.target.value } })}
          />
        ) : (
          <span className="mono">{moved(to)}</span>
        )}
        <button type="button" className={field.link} aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Less" : "More"}
        </button>
        <button
          type="button"
          className={field.link}
          onClick={remove}
          aria-label={`Take off colour ${number}`}
        >
          Take off
        </button>
      </div>
      {open && (
        <div className={css.fields}>
          <Field label="Becomes">
            <Choice
              label="What the range becomes"
              value={kind}
              options={[
                { value: "colour", label: "a colour", tip: "The same light and shade, of another colour" },
                {
                  value: "moved",
                  label: "moved",
                  tip: "Its hue turned, its saturation and lightness changed",
                },
              ]}
              change={(v) => put({ ...change, to: v === "colour" ? { colour: from } : UNMOVED })}
            />
          </Field>
          {"colour" in to ? null : (
            <>
              <Sliding
                label="Hue"
                unit="°"
                value={to.hue}
                min={-180}
                max={360}
                step={1}
                change={(hue) => put({ ...change, to: { ...to, hue } })}
              />
              <Sliding
                label="Saturation"
                unit="%"
                value={Math.round(100 * to.saturation)}
                min={0}
                max={300}
                step={1}
                change={(v) => put({ ...change, to: { ...to, saturation: v / 100 } })}
              />
              <Sliding
                label="Lightness"
                unit="%"
                value={Math.round(100 * to.lightness)}
                min={-100}
                max={100}
                step={1}
                change={(v) => put({ ...change, to: { ...to, lightness: v / 100 } })}
              />
            </>
          )}
          <Sliding
            label="Tolerance"
            decimals={1}
            value={tolerance}
            min={0}
            max={60}
            step={0.5}
            change={(v) => put({ ...change, tolerance: v })}
          />
          <Sliding
            label="Softness"
            decimals={1}
            value={softness}
            min={0}
            max={40}
            step={0.5}
            change={(v) => put({ ...change, softness: v })}
          />
        </div>
      )}
    </div>
  );
}

const moved = ({ hue, saturation, lightness }: typeof UNMOVED): string =>
  [
    hue !== 0 && `hue ${hue}°`,
    saturation !== 1 && `saturation ${Math.round(100 * saturation)} %`,
    lightness !== 0 && `lightness ${lightness > 0 ? "+" : "−"}${Math.round(Math.abs(100 * lightness))} %`,
  ]
    .filter(Boolean)
    .join(", ") || "itself";
