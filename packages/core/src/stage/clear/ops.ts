import { takeAway, type Clearing } from "../../clear/clearing";
import { cutOut } from "../../clear/cutOut/cutOut";
import { bringBack } from "../../clear/bringBack";
import { takeGaps } from "../../clear/gaps";
import { liftInk } from "../../clear/lift";
import { paperColour } from "../../clear/paper";
import { pick } from "../../clear/pick";
import { seenThrough } from "../../clear/seenThrough";
import { coverOfStrokes } from "../../clear/strokes";
import { codesOf } from "../../colour/oklab";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { coverOfPolygon } from "../../path/cover";
import { pixelAt, toPixels } from "../../path/frame";
import { polygonOf, rectangleKnots, roundKnots, type Knot } from "../../path/outline";
import { dotsPerMm } from "../../maths/units";
import { type Picture } from "../../result/result";
import { type Learned } from "./progress";
import { type ClearOp, type ClearOpOf, type ClearSettings } from "./settings";

type Base = Omit<Clearing, "held">;

/** A hold holds against everything, wherever it stands among the operations. */
export function* coverOfHolds(base: Base, ops: readonly ClearOp[]): Work<Uint8Array | null> {
  const strokes = ops.flatMap((o) => (o.op === "hold" ? o.strokes : []));
  return strokes.length > 0 ? yield* coverOfStrokes(base, strokes) : null;
}

/** 1 where a hand decided itself what is there: by an eraser, an outline or a place pointed at. Null when none did. */
export function* decidedByHand(
  { colour, finish, frame }: Picture,
  through: readonly Uint8Array[],
  ops: readonly ClearOp[],
): Work<Uint8Array | null> {
  const on = { source: colour, frame, dotsPerMm: dotsPerMm(finish) };
  const erased = ops.flatMap((o) => (o.op === "brush" && o.paints === "away" ? o.strokes : []));
  const paths = ops.filter((o) => o.op === "path");
  if (erased.length + paths.length + through.length === 0) return null;
  const meant = new Uint8Array(colour.width * colour.height);
  const mark = (cover: Uint8Array, inside: boolean): Work<void> =>
    inStretches(cover.length, (from, to) => {
      for (let i = from; i < to; i++) if (inside ? cover[i] > 0 : cover[i] < 255) meant[i] = 1;
    });
  for (const plane of through) yield* mark(plane, true);
  if (erased.length > 0) yield* mark(yield* coverOfStrokes(on, erased), true);
  for (const path of paths) {
    const points = polygonOf(knotsOf(on, path));
    if (points.length < 3) continue;
    yield* mark(yield* coverOfPolygon(points, colour.width, colour.height), path.keep === "outside");
  }
  return meant;
}

/** Does one operation, and notes what it learned of the background. */
export function* runOp(
  clearing: Clearing,
  op: ClearOp,
  index: number,
  { ops, fringe }: ClearSettings,
  cleared: Learned,
): Work<void> {
  switch (op.op) {
    case "pick":
      return yield* takePick(clearing, op, cleared);
    case "gaps": {
      const picks = ops.filter((o) => o.op === "pick");
      const dots = op.smallestMm2 === null ? null : op.smallestMm2 * clearing.dotsPerMm * clearing.dotsPerMm;
      const found = yield* takeGaps(clearing, {
        like: picks[op.like].at,
        tolerance: op.tolerance,
        smallestPixels: dots,
        but: op.but,
      });
      cleared.gaps.push({ op: index, ...found });
      return;
    }
    case "lift": {
      const auto = op.paper === "auto";
      cleared.background.push(auto ? paperColour(clearing.source) : codesOf(op.paper));
      return yield* liftInk(clearing, op);
    }
    case "through": {
      const plane = yield* seenThrough(clearing, op.at, op.as);
      if (plane) cleared.through.push(plane);
      return;
    }
    case "cutOut":
      return yield* cutOut(clearing, op, fringe === "unmix");
    case "brush":
      return yield* paint(clearing, op);
    case "back":
      return yield* bringBack(clearing, op.at);
    case "path":
      return yield* limit(clearing, op);
    case "hold":
      return;
  }
}

function* takePick(
  clearing: Clearing,
  { at, tolerance, joined }: ClearOpOf<"pick">,
  cleared: Learned,
): Work<void> {
  const p = pixelAt(clearing, at);
  if (!p) return;
  const { source } = clearing;
  const o = (p[1] * source.width + p[0]) * 4;
  cleared.background.push([source.data[o], source.data[o + 1], source.data[o + 2]]);
  const { mask } = yield* workSlice(pick(source, p[0], p[1], tolerance, joined), 0, 0.8);
  const take = inStretches(mask.length, (from, to) => {
    for (let i = from; i < to; i++) if (mask[i] !== 0) takeAway(clearing, i);
  });
  yield* workSlice(take, 0.8, 1);
}

/** The brush takes cover away, or brings the picture back as it was. */
function* paint(clearing: Clearing, { paints, strokes }: ClearOpOf<"brush">): Work<void> {
  const cover = yield* workSlice(coverOfStrokes(clearing, strokes), 0, 0.8);
  const { data, source, taken, held } = clearing;
  const away = (i: number, o: number): void => {
    const left = Math.max(held ? held[i] : 0, 255 - cover[i]);
    if (left < data[o + 3]) data[o + 3] = Math.min(data[o + 3], Math.round((data[o + 3] * left) / 255));
  };
  const back = (i: number, o: number): void => {
    const alpha = Math.round((source.data[o + 3] * cover[i]) / 255);
    if (alpha <= data[o + 3]) return;
    for (let k = 0; k < 3; k++) data[o + k] = source.data[o + k];
    data[o + 3] = alpha;
    taken[i] = 0;
  };
  const act = paints === "away" ? away : back;
  const work = inStretches(cover.length, (from, to) => {
    for (let i = from; i < to; i++) if (cover[i] !== 0) act(i, i * 4);
  });
  yield* workSlice(work, 0.8, 1);
}

/** Keeps what lies inside an outline, or outside it. */
function* limit(clearing: Clearing, op: ClearOpOf<"path">): Work<void> {
  const { source, data, held } = clearing;
  const points = polygonOf(knotsOf(clearing, op));
  if (points.length < 3) return;
  const cover = yield* workSlice(coverOfPolygon(points, source.width, source.height), 0, 0.8);
  const work = inStretches(cover.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const hold = held ? held[i] : 0;
      const share = Math.max(hold, op.keep === "inside" ? cover[i] : 255 - cover[i]);
      if (share < 255) data[i * 4 + 3] = Math.round((data[i * 4 + 3] * share) / 255);
    }
  });
  yield* workSlice(work, 0.8, 1);
}

/** The outline of a path operation, in pixels. */
export function knotsOf(
  on: Pick<Clearing, "source" | "frame" | "dotsPerMm">,
  { kind, box, cornerMm, knots }: ClearOpOf<"path">,
): Knot[] {
  if (kind === "free") {
    const [zx, zy] = toPixels(on, [0, 0]);
    const scaled = (d?: readonly [number, number]): [number, number] | undefined => {
      if (!d) return undefined;
      const [x, y] = toPixels(on, d);
      return [x - zx, y - zy];
    };
    return knots.map((k) => ({ at: toPixels(on, k.at), in: scaled(k.in), out: scaled(k.out) }));
  }
  const [x, y] = toPixels(on, [box[0], box[1]]);
  const [right, bottom] = toPixels(on, [box[0] + box[2], box[1] + box[3]]);
  if (kind === "round") return roundKnots(x, y, right - x, bottom - y);
  const corner = kind === "rounded" ? cornerMm * on.dotsPerMm : 0;
  return rectangleKnots(x, y, right - x, bottom - y, corner, corner);
}
