import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Switch } from "../../shared/fields/controls";
import { Field, Percent, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";

/** Settings of one way to part an art into inks. */
export function SeparateFields({ scene: { set }, settings }: { scene: BenchScene; settings: FilmsSettings }) {
  const { separate, knockOut, levels, blackGeneration, totalInk } = settings;
  const change = (more: Partial<FilmsSettings>) => set("films", more);
  return (
    <>
      {separate === "black" && (
        <>
          <p className={field.note}>
            {levels === "found"
              ? "Ground at zero, darkest point full: found from the art."
              : "Levels set by hand."}{" "}
            <button
              type="button"
              className={field.link}
              onClick={() => change({ levels: levels === "found" ? { bare: 0.95, full: 0.05 } : "found" })}
            >
              {levels === "found" ? "Set by hand" : "Ground zero, darkest full"}
            </button>
          </p>
          {levels !== "found" &&
            (["bare", "full"] as const).map((name) => (
              <Percent
                key={name}
                label={name === "bare" ? "Bare from" : "Full to"}
                of={`levels.${name}`}
                value={levels[name]}
                step={1}
                change={(v) => change({ levels: { ...levels, [name]: v } })}
              />
            ))}
        </>
      )}
      {separate === "process" && (
        <Percent
          label="Black"
          of="blackGeneration"
          value={blackGeneration}
          change={(v) => change({ blackGeneration: v })}
        />
      )}
      {separate !== "black" && (
        <Sliding
          label="Total ink"
          of="totalInk"
          unit="%"
          value={totalInk}
          min={100}
          max={400}
          step={10}
          change={(v) => change({ totalInk: v })}
        />
      )}
      <Field label="Garment out">
        <Switch
          aria-label="Take the garment's colour out"
          checked={knockOut !== undefined}
          onChange={(e) =>
            change({ knockOut: e.currentTarget.checked ? { tolerance: 4, softness: 0 } : undefined })
          }
        />
      </Field>
      {knockOut && (
        <Sliding
          label="Tolerance"
          of="knockOut.tolerance"
          decimals={1}
          value={knockOut.tolerance}
          min={0}
          max={40}
          step={0.5}
          change={(v) => change({ knockOut: { ...knockOut, tolerance: v } })}
        />
      )}
      {knockOut && separate !== "flat" && (
        <Sliding
          label="Softness"
          of="knockOut.softness"
          decimals={1}
          value={knockOut.softness}
          min={0}
          max={40}
          step={0.5}
          change={(v) => change({ knockOut: { ...knockOut, softness: v } })}
        />
      )}
    </>
  );
}
