import { type Knot } from "../path/outline";
import { reversedPath, type KnotPath } from "../path/pathSet";

/** Ends nearer to each other than this are one, in the drawing's units. */
const JOINED = 0.005;

/** Open paths that end where another begins, or ends, as one path; closed where it comes back to its beginning. */
export function joinedUp(paths: readonly KnotPath[]): KnotPath[] {
  const closed = paths.filter((p) => p.closed);
  const left = new Set(paths.filter((p) => !p.closed));
  const ends = new Map<string, Set<KnotPath>>();
  const cell = (x: number, y: number) => `${Math.floor(x / JOINED)} ${Math.floor(y / JOINED)}`;
  for (const path of left)
    for (const { at } of [path.knots[0], path.knots[path.knots.length - 1]]) {
      const key = cell(at[0], at[1]);
      ends.set(key, (ends.get(key) ?? new Set()).add(path));
    }
  /** A path not yet joined that has an end at a place, turned so that it begins there. */
  const from = ([x, y]: readonly [number, number]): KnotPath | null => {
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const path of ends.get(cell(x + dx * JOINED, y + dy * JOINED)) ?? []) {
          if (!left.has(path)) continue;
          const turned = [path, reversedPath(path)].find((p) => isNear(p.knots[0].at, [x, y]));
          if (turned) {
            left.delete(path);
            return turned;
          }
        }
    return null;
  };
  const out: KnotPath[] = [...closed];
  for (const path of left) {
    left.delete(path);
    let knots: Knot[] = [...path.knots];
    for (let turn = 0; turn < 2; turn++) {
      for (;;) {
        const last = knots[knots.length - 1];
        if (knots.length > 2 && isNear(last.at, knots[0].at)) break;
        const next = from(last.at);
        if (!next) break;
        const [first, ...rest] = next.knots;
        knots[knots.length - 1] = { ...last, ...(first.out ? { out: first.out } : {}) };
        knots.push(...rest);
      }
      if (knots.length > 2 && isNear(knots[knots.length - 1].at, knots[0].at)) break;
      knots = [...reversedPath({ knots, closed: false }).knots];
    }
    const [first, last] = [knots[0], knots[knots.length - 1]];
    if (knots.length > 2 && isNear(first.at, last.at))
      out.push({
        knots: [{ ...first, ...(last.in ? { in: last.in } : {}) }, ...knots.slice(1, -1)],
        closed: true,
      });
    else out.push({ knots, closed: false });
  }
  return out;
}

const isNear = (a: readonly [number, number], b: readonly [number, number]): boolean =>
  (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) <= JOINED * JOINED;
