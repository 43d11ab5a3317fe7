import { type CutLineSettings } from "@hardline/core/stage/cutLine/settings";
import { Button } from "@mantine/core";
import { Select } from "../../shared/fields/controls";
import { Field } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import { type OwnPaths } from "../ownPaths/useOwn";

interface Props {
  readonly scene: BenchScene;
  readonly settings: CutLineSettings;
  readonly own: OwnPaths;
  readonly set: (change: Partial<CutLineSettings>) => void;
}

/** Paths of the drawing itself that the line goes along, to choose from; what the file names as cut is proposed. */
export function OwnPathField({ scene, settings: { from, drawing }, own, set }: Props) {
  const takes = (k: number): Partial<CutLineSettings> => ({
    from: "drawing",
    drawing: own.over(own.groups[k], scene.route),
  });
  const cutting = own.groups[0]?.cutting ? own.groups[0] : null;
  if (from !== "drawing")
    return cutting ? (
      <p className={css.note}>
        The file says what is cut: <b>{cutting.layer}</b>.{" "}
        <Button size="compact-xs" variant="light" onClick={() => set({ ...takes(0), offsetMm: 0 })}>
          Cut along it
        </Button>
      </p>
    ) : null;
  const chosen = own.groups.findIndex((group) => own.over(group, scene.route).d === drawing?.d);
  return (
    <Field label="Paths">
      <Select
        aria-label="Paths of the drawing"
        allowDeselect={false}
        placeholder="of the drawing"
        value={chosen >= 0 ? String(chosen) : null}
        data={own.groups.map(({ name }, k) => ({ value: String(k), label: name }))}
        onChange={(v) => set(takes(Number(v)))}
      />
    </Field>
  );
}
