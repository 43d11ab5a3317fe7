import { z } from "zod";
import { type Work } from "../maths/work";
import { type KnotPath } from "../path/pathSet";
import { common, evenOdd, joined, without } from "../polygon/inSlices";
import { keptCurves, traceable } from "../polygon/keptCurves";
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
 * Draws paths that are one shape, or lines. A shape that crosses others of its set changes them as they are seen filled, with
 * whatever lies under it; one that crosses none, be it beside a shape, in one or round one, is lines of its own: in a shape,
 * a hole.
 */
export function* drawOver(bench: Bench, paths: readonly KnotPath[], how: Over): Work<boolean> {
  const draw = (): true => {
    for (const path of paths) bench.draw(path);
    return true;
  };
  if (!how || paths.length === 0 || paths.some((path) => !path.closed)) return draw();
  const drawn = yield* evenOdd(paths.map(ringOf));
  const area = areaOf(drawn);
  const touched: KnotPath[] = [];
  let [crossed, round] = [false, 0];
  const box = boxOfBoxes(paths.map(ringBoxOfPath));
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
  if (!crossed) return draw();
  // Where an odd number of lines goes round all of it, what lies between the lines it touches is what is filled.
  const opened = round % 2 === 1;
  const from = traceable([...touched, ...paths]);
  const own = yield* evenOdd(from.rings.slice(0, touched.length));
  const over = yield* evenOdd(from.rings.slice(touched.length));
  const made = yield* (how === "join") !== opened ? joined(own, over) : without(own, over);
  for (const gone of touched) bench.replace(bench.paths.indexOf(gone), []);
  for (const next of yield* keptCurves(made, from)) bench.put(next, bench.home);
  return true;
}

function boxOfBoxes(boxes: readonly Rect[]): Rect {
  const [x, y] = [Math.min(...boxes.map((b) => b.x)), Math.min(...boxes.map((b) => b.y))];
  return {
    ...{ x, y },
    width: Math.max(...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(...boxes.map((b) => b.y + b.height)) - y,
  };
}

const meets = (a: Rect, b: Rect): boolean =>
  a.x <= b.x + b.width && b.x <= a.x + a.width && a.y <= b.y + b.height && b.y <= a.y + a.height;
