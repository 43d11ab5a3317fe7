import { KERNEL_NAMES, kernelTitle, type KernelName, type ScatterSettings } from "@hardline/core";
import { Select, Switch } from "@mantine/core";
import { Field, Sliding } from "../../../shared/fields/Field";
import { type MethodProps } from "../methodPanel";

/** Weights, strength and direction of error diffusion. */
export function ScatterControls({ settings, change, spread }: MethodProps<ScatterSettings>) {
  return (
    <>
      <Field label="Weights" fan={() => spread("method")}>
        <Select
          aria-label="Weights of the error diffusion"
          data={KERNEL_NAMES.map((value) => ({ value, label: kernelTitle(value) }))}
          value={settings.kernel}
          onChange={(kernel) => change({ kernel: kernel as KernelName })}
        />
      </Field>
      <Sliding
        label="Strength"
        unit="%"
        value={Math.round(settings.strength * 100)}
        min={0}
        max={100}
        step={1}
        change={(v) => change({ strength: v / 100 })}
        fan={() => spread("strength")}
      />
      <Field label="Serpentine">
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
  );
}
