import { type Work } from "../maths/work";
import { onPiece, type Frame } from "../path/frame";
import { rectangleKnots, roundKnots } from "../path/outline";
import { knotPathsOf, pathSetOf, reversedPath, type KnotPath, type PathSet } from "../path/pathSet";
import { scaledPath } from "../path/scaled";
import { common, evenOdd, joined, without } from "../polygon/clip";
import { fitRings } from "../polygon/fitRings";
import { ringArea, type Ring } from "../polygon/rings";
import { fitSides } from "../trace/fit";
import { type Point } from "../trace/line";
import { areaOfPath, flat, isRound, nearestKnot, nearestOnPaths, type AtKnot, type OnPath } from "./find";
import { type PathEdit, type PathEditOf } from "./ops";
import {
  knotOf,
  movedHandle,
  movedPoint,
  pointAs,
  segmentAs,
  split,
  withoutPoint,
  withPoint,
} from "./points";
import { rubbed } from "./rub";

/** What an edit names is looked for no further off than this, in mm: made anew, a path lies a little elsewhere. */
const REACH_MM = 0.6;
const DRAWN = { name: "drawn", use: "score", colour: 0x1f45c4 } as const;

interface On {
  readonly finish: { readonly widthMm: number; readonly heightMm: number };
  readonly frame: Frame;
}

export interface Edited {
  readonly sets: readonly PathSet[];
  /** Numbers of the edits that found nothing to act on. */
  readonly missed: readonly number[];
}

/** Paths of all sets in one list, each with the number of its set. */
interface Bench {
  readonly paths: KnotPath[];
  readonly set: number[];
}

/** Makes the edits of a hand on sets of paths, one after another. What is printed is left alone. */
export function* withEdits(sets: readonly PathSet[], edits: readonly PathEdit[], on: On): Work<Edited> {
  if (edits.length === 0) return { sets, missed: [] };
  const bench: Bench = { paths: [], set: [] };
  const drawn = sets.length; // a set of its own for open lines that were drawn
  sets.forEach((set, k) => {
    if (set.use === "print") return;
    for (const path of knotPathsOf(set)) put(bench, path, k);
  });
  const home = Math.max(
    0,
    sets.findIndex((s) => s.use !== "print" && s.use !== "score"),
  );
  const missed: number[] = [];
  for (const [k, edit] of edits.entries()) {
    yield k / edits.length;
    if (!(yield* act(bench, edit, on, home, drawn))) missed.push(k);
  }
  const all = [...sets, ...(bench.set.includes(drawn) ? [{ ...pathSetOf(DRAWN, []) }] : [])];
  return {
    sets: all.map((set, k) => {
      if (set.use === "print") return set;
      const { points: _p, starts: _s, closed: _c, widthsMm: _w, ...look } = set;
      return pathSetOf(
        look,
        bench.paths.filter((_, p) => bench.set[p] === k),
      );
    }),
    missed,
  };
}

function put({ paths, set }: Bench, path: KnotPath, of: number): true {
  paths.push(path);
  set.push(of);
  return true;
}

function replace({ paths, set }: Bench, at: number, by: readonly KnotPath[]): true {
  const of = set[at];
  paths.splice(at, 1, ...by);
  set.splice(at, 1, ...by.map(() => of));
  return true;
}

/** @returns whether it found what it acts on */
function* act(bench: Bench, edit: PathEdit, on: On, home: number, drawn: number): Work<boolean> {
  const { paths } = bench;
  const mm = (at: readonly [number, number]): Point => onPiece(at, on);
  const pathAt = (at: readonly [number, number]): OnPath | null => nearestOnPaths(paths, mm(at), REACH_MM);
  const knotAt = (at: readonly [number, number]): AtKnot | null => nearestKnot(paths, mm(at), REACH_MM);
  const change = (
    found: { readonly path: number } | null,
    to: (path: KnotPath) => KnotPath | null,
  ): boolean => {
    const made = found && to(paths[found.path]);
    return !!made && replace(bench, found.path, [made]);
  };
  switch (edit.edit) {
    case "delete": {
      const found = pathAt(edit.at);
      return !!found && replace(bench, found.path, []);
    }
    case "deleteSmaller": {
      const small = paths.map((p) => p.closed && areaOfPath(p) < edit.mm2);
      for (let k = paths.length - 1; k >= 0; k--) if (small[k]) replace(bench, k, []);
      return small.includes(true);
    }
    case "move":
      return change(pathAt(edit.at), (path) => shifted(path, edit.byMm));
    case "box":
      return change(pathAt(edit.at), (path) => inBox(path, edit));
    case "simplify": {
      const found = pathAt(edit.at);
      if (!found) return false;
      return replace(bench, found.path, yield* simpler(paths[found.path], edit.withinMm));
    }
    case "combine":
      return yield* combined(bench, pathAt(edit.at), pathAt(edit.with), edit.how);
    case "fill":
      return filled(bench, mm(edit.at));
    case "movePoint":
      return change(knotAt(edit.at), (path) => movedPoint(path, knotAt(edit.at)!.knot, mm(edit.to)));
    case "moveHandle":
      return change(knotAt(edit.at), (path) =>
        movedHandle(path, knotAt(edit.at)!.knot, edit.side, edit.byMm),
      );
    case "addPoint": {
      const found = pathAt(edit.at);
      return change(found, (path) => withPoint(path, found!.segment, found!.share));
    }
    case "dropPoint":
      return change(knotAt(edit.at), (path) => withoutPoint(path, knotAt(edit.at)!.knot));
    case "point":
      return change(knotAt(edit.at), (path) => pointAs(path, knotAt(edit.at)!.knot, edit.as));
    case "segment": {
      const found = pathAt(edit.at);
      return change(found, (path) => segmentAs(path, found!.segment, edit.as));
    }
    case "level":
      return levelled(bench, knotAt(edit.at), knotAt(edit.with), edit.way);
    case "split": {
      const found = knotAt(edit.at);
      return !!found && replace(bench, found.path, split(paths[found.path], found.knot));
    }
    case "joinEnds":
      return endsJoined(bench, knotAt(edit.at), knotAt(edit.with));
    case "rub": {
      let any = false;
      for (const [k, path] of paths.entries()) {
        const even = yield* rubbed(path, edit.along.map(mm), edit.reachMm);
        if (even !== path) any = replace(bench, k, [even]);
      }
      return any;
    }
    case "draw": {
      const knots = edit.knots.map((k) => knotOf(mm(k.at), k.in, k.out));
      return put(bench, { knots, closed: edit.closed }, edit.closed ? home : drawn);
    }
    case "circle": {
      const [[x, y], d] = [mm(edit.at), edit.diameterMm];
      return put(bench, { knots: roundKnots(x - d / 2, y - d / 2, d, d), closed: true }, home);
    }
    case "rectangle": {
      const [[x, y], w, h, c] = [mm(edit.at), edit.widthMm, edit.heightMm, edit.cornerMm];
      return put(bench, { knots: rectangleKnots(x - w / 2, y - h / 2, w, h, c, c), closed: true }, home);
    }
    case "line":
      return put(bench, { knots: [{ at: mm(edit.at) }, { at: mm(edit.to) }], closed: false }, drawn);
  }
}

const shifted = (path: KnotPath, [dx, dy]: Point): KnotPath => ({
  ...path,
  knots: path.knots.map((k) => ({ ...k, at: [k.at[0] + dx, k.at[1] + dy] as const })),
});

/** A path moved and scaled so that it fills a box. */
function inBox(path: KnotPath, { xMm, yMm, widthMm, heightMm }: PathEditOf<"box">): KnotPath {
  const [left, top, right, bottom] = flat(path).box;
  const sx = right > left ? widthMm / (right - left) : 1;
  const sy = bottom > top ? heightMm / (bottom - top) : 1;
  const by = (p: Point): Point => [p[0] * sx, p[1] * sy];
  return {
    ...path,
    knots: path.knots.map(({ at, in: back, out }) =>
      knotOf([xMm + (at[0] - left) * sx, yMm + (at[1] - top) * sy], back && by(back), out && by(out)),
    ),
  };
}

const ringOf = (path: KnotPath): Ring => {
  const { points } = flat(path);
  return points.subarray(0, points.length - 2);
};

function* simpler(path: KnotPath, withinMm: number): Work<KnotPath[]> {
  if (path.closed) return yield* fitRings([ringOf(path)], withinMm);
  const units = withinMm / 2;
  const knots = yield* fitSides(
    flat(path).points.map((v) => v / units),
    { tolerance: 2, corners: 0.5 },
  );
  return [scaledPath({ knots, closed: false }, units)];
}

/** Two closed paths as areas, made one, the first without the second, or what is in both. */
function* combined(
  bench: Bench,
  a: OnPath | null,
  b: OnPath | null,
  how: PathEditOf<"combine">["how"],
): Work<boolean> {
  if (!a || !b || a.path === b.path) return false;
  const [one, other] = [bench.paths[a.path], bench.paths[b.path]];
  if (!one.closed || !other.closed) return false;
  const [p, q] = [evenOdd([ringOf(one)]), evenOdd([ringOf(other)])];
  const rings = { join: joined, subtract: without, intersect: common }[how](p, q);
  const made = yield* fitRings(rings);
  replace(bench, a.path, made);
  const at = bench.paths.indexOf(other);
  return replace(bench, at, []);
}

/** The gap around a place filled, with all that lies in it: the smallest path round it that is a hole. */
function filled(bench: Bench, at: Point): boolean {
  const round = bench.paths
    .map((path, k) => ({ path, k, area: path.closed ? Math.abs(ringArea(ringOf(path))) : Infinity }))
    .filter(({ path }) => isRound(path, at))
    .sort((a, b) => a.area - b.area);
  // Even-odd: a place that an odd number of paths go round is filled already.
  if (round.length === 0 || round.length % 2 === 1) return false;
  const hole = round[0];
  for (let k = bench.paths.length - 1; k >= 0; k--)
    if (
      k === hole.k ||
      (bench.paths[k].closed &&
        isRound(hole.path, bench.paths[k].knots[0].at) &&
        bench.set[k] === bench.set[hole.k])
    )
      replace(bench, k, []);
  return true;
}

/** Two points brought to one height, or under one another: each goes half of the way. */
function levelled(
  bench: Bench,
  a: AtKnot | null,
  b: AtKnot | null,
  way: PathEditOf<"level">["way"],
): boolean {
  if (!a || !b || (a.path === b.path && a.knot === b.knot)) return false;
  const [p, q] = [bench.paths[a.path].knots[a.knot].at, bench.paths[b.path].knots[b.knot].at];
  const to = (at: Point): Point =>
    way === "horizontally" ? [at[0], (p[1] + q[1]) / 2] : [(p[0] + q[0]) / 2, at[1]];
  replace(bench, a.path, [movedPoint(bench.paths[a.path], a.knot, to(p))]);
  return replace(bench, b.path, [movedPoint(bench.paths[b.path], b.knot, to(q))]);
}

/** Two free ends joined by a straight line; the two ends of one path close it. */
function endsJoined(bench: Bench, a: AtKnot | null, b: AtKnot | null): boolean {
  if (!a || !b) return false;
  const isEnd = ({ path, knot }: AtKnot): boolean => {
    const { closed, knots } = bench.paths[path];
    return !closed && (knot === 0 || knot === knots.length - 1);
  };
  if (!isEnd(a) || !isEnd(b) || (a.path === b.path && a.knot === b.knot)) return false;
  if (a.path === b.path) return replace(bench, a.path, [closedUp(bench.paths[a.path])]);
  const out = a.knot === 0 ? reversedPath(bench.paths[a.path]) : bench.paths[a.path];
  const back = b.knot === 0 ? bench.paths[b.path] : reversedPath(bench.paths[b.path]);
  const other = bench.paths[b.path];
  replace(bench, a.path, [{ closed: false, knots: [...out.knots, ...back.knots] }]);
  return replace(bench, bench.paths.indexOf(other), []);
}

/** Nearer than this, in mm, two ends are one point. */
const SAME_MM = 0.01;

function closedUp({ knots }: KnotPath): KnotPath {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  const isSame = Math.abs(first.at[0] - last.at[0]) + Math.abs(first.at[1] - last.at[1]) < SAME_MM;
  if (!isSame || knots.length < 4) return { knots, closed: true };
  return { knots: [knotOf(first.at, last.in, first.out), ...knots.slice(1, -1)], closed: true };
}
