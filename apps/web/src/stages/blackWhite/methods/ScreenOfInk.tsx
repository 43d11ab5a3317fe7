import { type ScreenOnInk } from "@hardline/core/dots/methods/screen";
import { DOT_NAMES, type DotShape } from "@hardline/core/screen/dotShapes";
import { Select } from "../../../shared/fields/controls";
import { Field, Sliding } from "../../../shared/fields/Field";
import { type PlateProps } from "../methodPanel";

/** Ruling, angle and shape of an ink's dots. */
export const ScreenOfInk = ({ screen, change, ink }: PlateProps<ScreenOnInk>) => (
  <>
    <Sliding
      label="Lines"
      of="screen.linesPerInch"
      unit="lpi"
      decimals={1}
      value={screen.linesPerInch}
      min={10}
      max={120}
      step={1}
      change={(linesPerInch) => change({ ...screen, linesPerInch })}
    />
    <Sliding
      label="Angle"
      of="screen.angle"
      unit="°"
      decimals={1}
      value={screen.angle}
      min={-90}
      max={90}
      step={2.5}
      change={(angle) => change({ ...screen, angle })}
    />
    <Field label="Shape" of="screen.dot">
      <Select
        aria-label={`Shape of the dots of ${ink}`}
        data={[...DOT_NAMES]}
        value={screen.dot}
        allowDeselect={false}
        onChange={(dot) => dot && change({ ...screen, dot: dot as DotShape })}
      />
    </Field>
  </>
);
