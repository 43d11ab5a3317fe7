import { type Work } from "../maths/work";
import { flattenedInSlices } from "../path/flatten";
import { goneOn } from "../path/goneOn";
import { type PathSet } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { Pieces } from "./pieces";

/** A plotter's unit, in mm. */
export const PLOTTER_MM = 0.025;
/** Half of a unit is lost by rounding alone; curves become straight pieces that are no worse. */
const FLAT_MM = PLOTTER_MM / 2;
/** Numbers written between two slices. */
const NUMBERS_AT_ONCE = 1 << 15;

/**
 * A plot in HP-GL: a pen a set, pen up to where a path begins, pen down along it. Whole units of 0.025 mm, y upwards; the lower
 * left of a box is the origin. Closed paths go on past their beginning by their overcut.
 *
 * @see Hewlett-Packard, "The HP-GL/2 and HP RTL Reference Guide", 1997: IN, SP, PU, PD
 */
export function* writeHpgl(sets: readonly PathSet[], box: Rect): Work<Uint8Array> {
  const text = new Pieces();
  const at = (x: number, y: number): string =>
    `${Math.round((x - box.x) / PLOTTER_MM)},${Math.round((box.y + box.height - y) / PLOTTER_MM)}`;
  const out = ["IN;"];
  let written = 0;
  for (const [pen, set] of sets.entries()) {
    const { overcutMm = 0 } = set;
    out.push(`SP${pen + 1};`);
    for (const { points, closed } of yield* flattenedInSlices(set, FLAT_MM)) {
      if ((written += points.length) > NUMBERS_AT_ONCE) {
        written = 0;
        text.add(`${out.splice(0).join("\n")}\n`);
        yield pen / sets.length;
      }
      const line = closed && overcutMm > 0 ? goneOn(points, overcutMm) : points;
      const places: string[] = [];
      for (let k = 2; k < line.length; k += 2) {
        const next = at(line[k], line[k + 1]);
        if (next !== places.at(-1)) places.push(next);
      }
      out.push(`PU${at(line[0], line[1])};`, `PD${places.join(",")};`);
    }
  }
  out.push("PU;", "SP0;");
  text.add(`${out.join("\n")}\n`);
  return text.bytes();
}
