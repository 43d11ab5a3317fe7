import { kernelTitle, SCATTER_NAMES, type ScatterName } from "@hardline/core/dots/kernelTitles";
import { type ScatterSettings } from "@hardline/core/dots/methods/scatter";
import { Select, Switch } from "../../../shared/fields/controls";
import { Field, Sliding } from "../../../shared/fields/Field";
import { DotControls } from "../DotControls";
import { type MethodProps } from "../methodPanel";

/** Pattern, strength and direction of scattered dots. */
export function ScatterControls({ settings, change, finish }: MethodProps<ScatterSettings>) {
  return (
    <>
      <Field label="Weights" of="kernel">
        <Select
          aria-label="Weights of the error diffusion"
          data={SCATTER_NAMES.map((value) => ({ value, label: kernelTitle(value) }))}
          value={settings.kernel}
          onChange={(kernel) => change({ kernel: kernel as ScatterName })}
        />
      </Field>
      {settings.kernel !== "blue-noise" && (
        <>
          <Sliding
            label="Strength"
            of="strength"
            unit="%"
            scale={100}
            value={Math.round(settings.strength * 100)}
            min={0}
            max={100}
            step={1}
            change={(v) => change({ strength: v / 100 })}
          />
          <Sliding
            label="Keep edges"
            of="keepEdges"
            decimals={1}
            value={settings.keepEdges}
            min={0}
            max={4}
            step={0.1}
            change={(keepEdges) => change({ keepEdges })}
          />
          <Field label="Serpentine" of="serpentine">
            <Switch
              aria-label="Serpentine"
              size="xs"
              color="dark"
              label="every second row runs back"
              checked={settings.serpentine}
              onChange={(e) => change({ serpentine: e.currentTarget.checked })}
            />
          </Field>
        </>
      )}
      <DotControls {...{ settings, change, finish }} />
    </>
  );
}
