import { onArtwork, onPiece, type Frame } from "@hardline/core/path/frame";
import { knotPathsOf, type KnotPath, type PathSet } from "@hardline/core/path/pathSet";
import { type Finish } from "@hardline/core/result/finish";
import { type Placed } from "../../table/geometry";

export type At = readonly [number, number];

/** Between the screen, millimetres of the piece, and fractions of the artwork. */
export function onTable(placed: Placed, finish: Finish, frame: Frame) {
  const perMm = placed.width / finish.widthMm;
  const on = { finish, frame };
  const round = (v: number): number => Math.round(v * 1e6) / 1e6;
  return {
    perMm,
    toMm: (x: number, y: number): At => [(x - placed.x) / perMm, (y - placed.y) / perMm],
    toScreen: ([x, y]: At): At => [placed.x + x * perMm, placed.y + y * perMm],
    /** As routes have it: a millionth of the artwork is finer than any file says. */
    named: (mm: At): At => {
      const [x, y] = onArtwork(mm, on);
      return [round(x), round(y)];
    },
    mmOf: (at: At): At => onPiece(at, on),
  };
}
export type OnTable = ReturnType<typeof onTable>;

/** A path on the table, and the set that it is of. */
export interface TablePath extends KnotPath {
  readonly set: number;
}

const known = new WeakMap<readonly PathSet[], readonly TablePath[]>();

/** Every path that can be edited; made once of the same sets. */
export function pathsIn(sets: readonly PathSet[]): readonly TablePath[] {
  let paths = known.get(sets);
  if (!paths) {
    paths = sets.flatMap((set, k) =>
      set.use === "print" ? [] : knotPathsOf(set).map((path) => ({ ...path, set: k })),
    );
    known.set(sets, paths);
  }
  return paths;
}
