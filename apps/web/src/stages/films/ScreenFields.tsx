import { type Ink } from "@hardline/core/film/ink";
import { DOT_NAMES } from "@hardline/core/screen/dotShapes";
import { screenOf } from "@hardline/core/stage/films/dotting";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Select } from "@mantine/core";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";

interface Props {
  readonly ink: Ink;
  readonly settings: FilmsSettings;
  readonly change: (more: Partial<Ink>) => void;
}

/** How an ink's tones become dots, and the mesh they are printed through. */
export function ScreenFields({ ink, settings, change }: Props) {
  const screen = screenOf(ink, settings);
  const kind = screen === "solid" ? "solid" : "scatterMm" in screen ? "scatter" : "lines";
  return (
    <>
      <Field label="Dots">
        <Choice
          label={`Dots of ${ink.name}`}
          value={kind}
          options={[
            { value: "solid", label: "none", tip: "Printed whole from half on" },
            { value: "scatter", label: "scatter" },
            { value: "lines", label: "screen" },
          ]}
          change={(v) =>
            change({
              screen:
                v === "solid"
                  ? "solid"
                  : v === "scatter"
                    ? { scatterMm: 0.1 }
                    : { linesPerInch: 45, angle: 22.5, dot: "ellipse" },
            })
          }
        />
      </Field>
      {screen !== "solid" && "scatterMm" in screen && (
        <Sliding
          label="Dot"
          of="screen.scatterMm"
          unit="mm"
          decimals={3}
          value={screen.scatterMm}
          min={0.02}
          max={0.5}
          step={0.01}
          change={(v) => change({ screen: { scatterMm: v } })}
        />
      )}
      {screen !== "solid" && "linesPerInch" in screen && (
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
            change={(v) => change({ screen: { ...screen, linesPerInch: v } })}
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
            change={(v) => change({ screen: { ...screen, angle: v } })}
          />
          <Field label="Shape" of="screen.dot">
            <Select
              aria-label={`Shape of the dots of ${ink.name}`}
              data={[...DOT_NAMES]}
              value={screen.dot}
              allowDeselect={false}
              onChange={(v) => v && change({ screen: { ...screen, dot: v as (typeof DOT_NAMES)[number] } })}
            />
          </Field>
        </>
      )}
      <Field label="Mesh">
        <NumberField
          label={`Mesh of ${ink.name}`}
          value={ink.meshPerCm ?? 0}
          min={0}
          max={200}
          decimals={0}
          unit="threads/cm"
          change={(v) => change({ meshPerCm: v < 5 ? undefined : v })}
        />
      </Field>
    </>
  );
}
