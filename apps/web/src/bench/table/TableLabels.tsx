import { type StageId } from "@hardline/core/stage/stages";
import { titleOf } from "../../stages/faces";
import css from "./LightTable.module.css";
import { type BesideRoute, type Surface } from "./surface";
import { type Table } from "./useTable";
import { WipeEdge } from "./WipeEdge";

interface Props {
  readonly table: Table;
  readonly name: string;
  /** The colourway that it is seen in. */
  readonly way: string | null;
  readonly before: StageId;
  readonly after: StageId;
  readonly material: Surface | null;
  readonly beside: BesideRoute | null;
  readonly wiped: boolean;
  /** Where the table is halved, in pixels. */
  readonly half: number;
}

/** Says what is seen: left and right of the wipe, or of both routes that lie beside each other. */
export function TableLabels({ table, name, way, before, after, material, beside, wiped, half }: Props) {
  const words = (route: string | null, on: Surface | null): string =>
    [route, titleOf(after), on && `on ${on.name}`, way && `in ${way}`].filter(Boolean).join(", ");
  if (beside?.under) return <WipeEdge {...{ table, before, after }} words={beside.under} />;
  if (beside) {
    const maxWidth = half - 28;
    return (
      <>
        <span className={css.label} style={{ maxWidth }}>
          {words(name, material)}
        </span>
        <span className={css.label} style={{ left: half + 14, maxWidth }}>
          {words(beside.route.name, beside.material)}
        </span>
      </>
    );
  }
  if (!wiped) return <span className={css.label}>{words(null, material)}</span>;
  const sides = material ? (["Bare dots", `On ${material.name}`] as const) : undefined;
  return <WipeEdge {...{ table, before, after }} words={sides} />;
}
