import { type ScatterOnInk } from "@hardline/core/dots/methods/scatter";
import { Sliding } from "../../../shared/fields/Field";
import { type PlateProps } from "../methodPanel";

/** Size of an ink's scattered dots. */
export const ScatterOfInk = ({ screen, change }: PlateProps<ScatterOnInk>) => (
  <Sliding
    label="Dot"
    of="screen.scatterMm"
    unit="mm"
    decimals={3}
    value={screen.scatterMm}
    min={0.02}
    max={0.5}
    step={0.01}
    change={(scatterMm) => change({ scatterMm })}
  />
);
