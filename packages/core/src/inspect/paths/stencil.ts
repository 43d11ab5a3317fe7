import { type PathEdit } from "../../edit/operations";
import { type Work } from "../../maths/work";
import { ringsInSlices } from "../../path/flatten";
import { type PathSet } from "../../path/pathSet";
import { evenOdd } from "../../polygon/inSlices";
import { gapsOf, holesOf } from "../../polygon/islands";
import { ringBox } from "../../polygon/rings";
import { figure, MOST_PLACES, type Check } from "../check";

/** Straight pieces for it stay so near to curves, in mm. */
const NEAR_MM = 0.02;
/** A bridge that a stencil bears, in mm, where the piece's own neck is no wider. */
const BRIDGE_MM = 1;

/**
 * What drops out of a stencil: what lies in the holes of a shape that is cut through (`filled`), or stands in a gap of a piece
 * (`gaps`).
 *
 * @param neckMm  the thinnest neck that the material bears
 */
export function* checkStencil(
  { name, ...set }: PathSet,
  cutOut: "filled" | "gaps",
  neckMm: number,
  edits: readonly PathEdit[],
): Work<Check> {
  const area = yield* evenOdd(yield* ringsInSlices({ name, ...set }, NEAR_MM));
  const cut = cutOut === "filled" ? area : yield* evenOdd(gapsOf(area));
  const holes = holesOf(cut);
  const count = holes.length;
  const widthMm = Math.max(BRIDGE_MM, neckMm);
  const places = holes.slice(0, MOST_PLACES).map((hole) => {
    const { x, y, width, height } = ringBox(hole);
    return { xMm: x, yMm: y, widthMm: width, heightMm: height };
  });
  return {
    id: "stencilIslands",
    level: count > 0 ? "look" : "fine",
    value: count,
    unit: "islands",
    text:
      count === 0 ? "Nothing drops out" : count === 1 ? "One island drops out" : `${count} islands drop out`,
    detail:
      count === 0
        ? "Whatever is cut round hangs together with the rest."
        : `Cut through, what lies within falls out with what is cut. Bridges of ${figure(widthMm, 1)} mm hold it.`,
    places,
    ...(count > 0 && {
      repair: {
        label: "Put bridges",
        change: { edits: [...edits, { edit: "bridges", widthMm, cutOut }] },
      },
    }),
  };
}
