import { type LineSettings } from "@hardline/core";
import { Choice, Field, Sliding } from "../../../shared/fields/Field";
import css from "../../../shared/fields/Field.module.css";
import { type MethodProps } from "../methodPanel";

/** One threshold, set or found. */
export function LineControls({ settings, change, readings }: MethodProps<LineSettings>) {
  const found = readings?.threshold as number | undefined;
  return (
    <>
      <Field label="Threshold">
        <Choice
          label="Threshold"
          value={settings.threshold === "auto" ? "auto" : "fixed"}
          options={[
            { value: "fixed", label: "fixed" },
            { value: "auto", label: "auto", tip: "Parts the greys into two groups (Otsu)" },
          ]}
          change={(v) => change({ threshold: v === "auto" ? "auto" : (found ?? 128) })}
        />
      </Field>
      {settings.threshold === "auto" ? (
        <p className={css.note}>{found ? `Found: ${found} of 255` : "Finding it …"}</p>
      ) : (
        <Sliding
          label="Darker than"
          value={settings.threshold}
          min={1}
          max={255}
          step={1}
          change={(threshold) => change({ threshold })}
        />
      )}
    </>
  );
}
