import { PLATE_METHODS, plateMethodOf } from "@hardline/core/dots/methods";
import { type Ink } from "@hardline/core/film/ink";
import { screenOf } from "@hardline/core/stage/films/dotting";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Choice, Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import { PLATE_PANELS } from "../blackWhite/methods";

interface Props {
  readonly ink: Ink;
  readonly settings: FilmsSettings;
  readonly change: (more: Partial<Ink>) => void;
}

/** How an ink's tones become dots, and the mesh they are printed through. */
export function ScreenFields({ ink, settings, change }: Props) {
  const screen = screenOf(ink, settings);
  const { id } = plateMethodOf(screen);
  const Controls = PLATE_PANELS[id];
  return (
    <>
      <Field label="Dots">
        <Choice
          label={`Dots of ${ink.name}`}
          value={id}
          options={PLATE_METHODS.map(({ id: value, plate }) => ({
            value,
            label: plate.label,
            tip: plate.tip,
          }))}
          change={(method) => {
            const { plate } = PLATE_METHODS.find((m) => m.id === method)!;
            change({ screen: plate.usual as Ink["screen"] });
          }}
        />
      </Field>
      {Controls && (
        <Controls screen={screen as never} change={(to) => change({ screen: to })} ink={ink.name} />
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
