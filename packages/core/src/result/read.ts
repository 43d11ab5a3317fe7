import { greyOf } from "../colour/grey";
import { runToEnd as finishWork } from "../maths/work";
import { partIn } from "../path/frame";
import { bitAt } from "../raster/types";
import { type Placement } from "./finish";
import { type Plate, type Plates, type Result } from "./result";

/** What is under the pointer. */
export interface Reading {
  /** Percent of black; null where the results tell no tone. */
  readonly tone: number | null;
  /** For each plate, whether it is marked there. */
  readonly plates: readonly {
    readonly name: string;
    readonly marked: boolean;
    /** Of an ink: percent of it that is wanted there. */
    readonly percent?: number;
  }[];
}

/**
 * Reads one dot of a route's results: its tone from the last that has one, its marks from the last that has any.
 * @param results  in the order of work
 * @param place    of the finished piece
 * @param x, y     in its dots
 * @returns        null outside the piece
 */
export function readDot(results: readonly Result[], place: Placement, x: number, y: number): Reading | null {
  const { widthPx, heightPx } = place.finish;
  if (x < 0 || y < 0 || x >= widthPx || y >= heightPx) return null;
  const plates = results.findLast((r) => r.kind === "plates");
  const toned = results.findLast((r) => r.kind === "tone" || r.kind === "picture");
  const [u, v] = [Math.floor(x), Math.floor(y)];
  const marks = plates?.kind === "plates" ? platesAt(plates, place, u, v) : [];
  return { tone: toned ? toneAt(toned, place, u, v) : null, plates: marks };
}

/** Films may have finer dots than the finish. */
function platesAt(result: Plates, place: Placement, x: number, y: number): Reading["plates"] {
  const at = partIn({ x: x + 0.5, y: y + 0.5, width: 0, height: 0 }, place, result);
  return result.plates.map(({ name, bits }, k) => {
    const marked = bitAt(bits, Math.floor(at.x), Math.floor(at.y)) === 1;
    const tone = result.print?.tones[k];
    return tone ? { name, marked, percent: percent(tone.data[y * tone.width + x]) } : { name, marked };
  });
}

/** The artwork's own picture has pixels of another size. */
function toneAt(result: Result, place: Placement, x: number, y: number): number | null {
  const at = partIn({ x: x + 0.5, y: y + 0.5, width: 0, height: 0 }, place, result);
  const i = Math.floor(at.y) * result.finish.widthPx + Math.floor(at.x);
  if (result.kind === "tone") return percent(result.gray.data[i]);
  if (result.kind !== "picture") return null;
  const pixel = result.colour.data.slice(i * 4, i * 4 + 4);
  return percent(finishWork(greyOf({ width: 1, height: 1, data: pixel })).data[0]);
}

const percent = (grey: number): number => ((255 - grey) / 255) * 100;

/** Percent of a square of dots that is marked, of all the plates together; the outside counts as bare. */
export function markedWithin(plates: readonly Plate[], x: number, y: number, side: number): number {
  let marked = 0;
  for (let v = y; v < y + side; v++)
    for (let u = x; u < x + side; u++) if (plates.some((p) => bitAt(p.bits, u, v))) marked++;
  return Math.round((100 * marked) / (side * side));
}
