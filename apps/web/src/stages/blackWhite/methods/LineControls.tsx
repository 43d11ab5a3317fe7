import { type LineSettings } from "@hardline/core/dots/methods/line";
import { Choice, Field, Sliding } from "../../../shared/fields/Field";
import css from "../../../shared/fields/Field.module.css";
import { type MethodProps } from "../methodPanel";

/** One threshold, set, found, or following the light; what is done to strokes after it. */
export function LineControls({ settings, change, readings }: MethodProps<LineSettings>) {
  const { threshold, local, cleanMm, edgeMm } = settings;
  const found = readings?.threshold as number | undefined;
  const kind = local ? "local" : threshold === "auto" ? "auto" : "fixed";
  const choose = (next: typeof kind) =>
    change(
      next === "local"
        ? { local: { windowMm: 6, k: 0.2 } }
        : { local: undefined, threshold: next === "auto" ? "auto" : (found ?? 128) },
    );
  return (
    <>
      <Field label="Threshold">
        <Choice
          label="Threshold"
          value={kind}
          options={[
            { value: "fixed", label: "fixed" },
            { value: "auto", label: "found", tip: "Parts the greys into two groups (Otsu)" },
            { value: "local", label: "by the light", tip: "Follows uneven light (Sauvola)" },
          ]}
          change={choose}
        />
      </Field>
      {kind === "auto" && <p className={css.note}>{found ? `Found: ${found} of 255` : "Finding it …"}</p>}
      {kind === "fixed" && (
        <Sliding
          label="Darker than"
          of="threshold"
          value={threshold as number}
          min={1}
          max={255}
          step={1}
          change={(next) => change({ threshold: next })}
        />
      )}
      {local && (
        <>
          <Sliding
            label="Window"
            of="local.windowMm"
            unit="mm"
            decimals={1}
            value={local.windowMm}
            min={0.5}
            max={40}
            step={0.5}
            change={(windowMm) => change({ local: { ...local, windowMm } })}
          />
          <Sliding
            label="Below mean"
            of="local.k"
            unit="%"
            scale={100}
            value={Math.round(local.k * 100)}
            min={1}
            max={80}
            step={1}
            change={(v) => change({ local: { ...local, k: v / 100 } })}
          />
        </>
      )}
      <Sliding
        label="Clean to"
        of="cleanMm"
        unit="mm"
        decimals={2}
        value={cleanMm}
        min={0}
        max={3}
        step={0.05}
        change={(v) => change({ cleanMm: v })}
      />
      <Sliding
        label="Edges out"
        of="edgeMm"
        unit="mm"
        decimals={2}
        value={edgeMm}
        min={-1}
        max={1}
        step={0.02}
        change={(v) => change({ edgeMm: v })}
      />
    </>
  );
}
