import { type Work } from "../maths/work";
import { knotPathsOf, pathSetOf, type PathSet } from "../path/pathSet";
import { Bench, type OnPieceOf, type SetText } from "./operation";
import { operationOf, type PathEdit } from "./operations";

const DRAWN = { name: "drawn", use: "score", colour: 0x1f45c4 } as const;

export interface Edited {
  readonly sets: readonly PathSet[];
  /** Numbers of the edits that found nothing to act on. */
  readonly missed: readonly number[];
  readonly texts: readonly SetText[];
}

/** Makes the edits of a hand on sets of paths, one after another. What is printed is left alone. */
export function* withEdits(
  sets: readonly PathSet[],
  edits: readonly PathEdit[],
  on: OnPieceOf,
): Work<Edited> {
  if (edits.length === 0) return { sets, missed: [], texts: [] };
  const drawn = sets.length; // a set of its own for open lines that were drawn
  const home = Math.max(
    0,
    sets.findIndex((s) => s.use !== "print" && s.use !== "score"),
  );
  const bench = new Bench(on, home, drawn);
  sets.forEach((set, k) => {
    if (set.use === "print") return;
    for (const path of knotPathsOf(set)) bench.put(path, k);
  });
  const missed: number[] = [];
  for (const [k, edit] of edits.entries()) {
    yield k / edits.length;
    bench.edit = k;
    const acted = operationOf(edit).act(bench, edit);
    if (!(typeof acted === "boolean" ? acted : yield* acted)) missed.push(k);
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
    texts: bench.texts,
  };
}
