import { z } from "zod";
import { fitRings } from "../fit/fitRings";
import { type Work } from "../maths/work";
import { type KnotPath } from "../path/pathSet";
import { common, evenOdd, joined, without } from "../polygon/inSlices";
import { areaOf } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { ringBoxOfPath, ringOf } from "./find";
import { type Bench } from "./operation";

/**
 * What a closed path does to the shapes that its line crosses: it is joined with them, or taken out of them. Left out, both
 * lines stay as they are, and an even-odd fill leaves open what lies in both.
 */
export const over = z.enum(["join", "subtract"]).optional();
type Over = z.output<typeof over>;

/** Areas differ by less than this share of the smaller where one lies wholly in the other. */
const WHOLE = 1e-4;

/**
 * Draws a path. A closed one that crosses shapes of its set changes them as they are seen filled, with whatever lies under
 * it; one that crosses none, be it beside a shape, in one or round one, is a line of its own: in a shape, a hole.
 */
export function* drawOver(bench: Bench, path: KnotPath, how: Over): Work<boolean> {
  if (!path.closed || !how) return bench.draw(path);
  const drawn = yield* evenOdd([ringOf(path)]);
  const area = areaOf(drawn);
  const touched: KnotPath[] = [];
  let [crossed, round] = [false, 0];
  const box = ringBoxOfPath(path);
  for (const other of bench.closedOf(bench.home)) {
    if (!meets(ringBoxOfPath(other), box)) continue;
    const own = yield* evenOdd([ringOf(other)]);
    const [ownArea, both] = [areaOf(own), areaOf(yield* common(own, drawn))];
    const close = WHOLE * Math.min(area, ownArea);
    if (both <= close) continue; // beside it
    if (area - both <= close) round++;
    else touched.push(other);
    if (area - both > close && ownArea - both > close) crossed = true;
  }
  if (!crossed) return bench.draw(path);
  // Where an odd number of lines goes round all of it, what lies between the lines it touches is what is filled.
  const opened = round % 2 === 1;
  const lines = yield* evenOdd(touched.map(ringOf));
  const made = yield* (how === "join") !== opened ? joined(lines, drawn) : without(lines, drawn);
  for (const gone of touched) bench.replace(bench.paths.indexOf(gone), []);
  for (const next of yield* fitRings(made)) bench.put(next, bench.home);
  return true;
}

const meets = (a: Rect, b: Rect): boolean =>
  a.x <= b.x + b.width && b.x <= a.x + a.width && a.y <= b.y + b.height && b.y <= a.y + a.height;
