import { strToU8 } from "fflate";
import { flattened } from "../path/flatten";
import { goneOn } from "../path/goneOn";
import { type PathSet } from "../path/pathSet";
import { type Rect } from "../raster/types";

/** A plotter's unit, in mm. */
export const PLOTTER_MM = 0.025;
/** Half of a unit is lost by rounding alone; curves become straight pieces that are no worse. */
const FLAT_MM = PLOTTER_MM / 2;

/**
 * A plot in HP-GL: a pen a set, pen up to where a path begins, pen down along it. Whole units of 0.025 mm, y upwards; the lower
 * left of a box is the origin. Closed paths go on past their beginning by their overcut.
 *
 * @see Hewlett-Packard, "The HP-GL/2 and HP RTL Reference Guide", 1997: IN, SP, PU, PD
 */
export function writeHpgl(sets: readonly PathSet[], box: Rect): Uint8Array {
  const at = (x: number, y: number): string =>
    `${Math.round((x - box.x) / PLOTTER_MM)},${Math.round((box.y + box.height - y) / PLOTTER_MM)}`;
  const out = ["IN;"];
  sets.forEach((set, pen) => {
    const { overcutMm = 0 } = set;
    out.push(`SP${pen + 1};`);
    for (const { points, closed } of flattened(set, FLAT_MM)) {
      const line = closed && overcutMm > 0 ? goneOn(points, overcutMm) : points;
      const places: string[] = [];
      for (let k = 2; k < line.length; k += 2) {
        const next = at(line[k], line[k + 1]);
        if (next !== places.at(-1)) places.push(next);
      }
      out.push(`PU${at(line[0], line[1])};`, `PD${places.join(",")};`);
    }
  });
  out.push("PU;", "SP0;");
  return strToU8(`${out.join("\n")}\n`);
}
