import { Choice, Field, Sliding } from "../../shared/fields/Field";
import { type CutFieldsProps } from "./CutLinePanel";

/** Where the art ends, and which parts of it are kept, or joined. */
export function PartFields({ settings: { from, alpha, parts }, set }: CutFieldsProps) {
  return (
    <>
      {from === "art" && (
        <Sliding
          label="Edge at"
          of="alpha"
          value={Math.round((alpha / 255) * 100)}
          unit="%"
          scale={100 / 255}
          min={1}
          max={100}
          step={1}
          change={(v) => set({ alpha: Math.max(1, Math.round((v / 100) * 255)) })}
        />
      )}
      <Field label="Parts">
        <Choice
          label="Parts that are kept"
          value={parts.keep}
          options={[
            { value: "all", label: "all" },
            { value: "largest", label: "the largest" },
          ]}
          change={(keep) => set({ parts: { ...parts, keep } })}
        />
      </Field>
      <Sliding
        label="Parts from"
        of="parts.smallestMm2"
        unit="mm²"
        decimals={1}
        value={parts.smallestMm2}
        min={0}
        max={100}
        step={0.5}
        change={(smallestMm2) => set({ parts: { ...parts, smallestMm2 } })}
      />
      <Sliding
        label="Bridge"
        of="parts.bridgeMm"
        unit="mm"
        decimals={1}
        value={parts.bridgeMm}
        min={0}
        max={20}
        step={0.5}
        change={(bridgeMm) => set({ parts: { ...parts, bridgeMm } })}
      />
    </>
  );
}
