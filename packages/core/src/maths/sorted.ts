import { workSlice, type Work } from "./work";

/** As many are sorted by the engine at once. */
const AT_ONCE = 1 << 12;

/**
 * Sorts a list in its own place, in slices: two halves, each sorted, are merged. Alike ones keep their order.
 *
 * @see von Neumann's merging, as told by Knuth, "The Art of Computer Programming", vol. 3, 5.2.4
 */
export function* sorted<T>(list: T[], compare: (a: T, b: T) => number): Work<void> {
  const done = yield* sortedCopy(list, compare);
  for (let k = 0; k < list.length; k++) list[k] = done[k];
}

function* sortedCopy<T>(list: readonly T[], compare: (a: T, b: T) => number): Work<readonly T[]> {
  if (list.length <= AT_ONCE) return [...list].sort(compare);
  const middle = list.length >> 1;
  const a = yield* workSlice(sortedCopy(list.slice(0, middle), compare), 0, 0.4);
  const b = yield* workSlice(sortedCopy(list.slice(middle), compare), 0.4, 0.8);
  const merged: T[] = [];
  let [i, j] = [0, 0];
  while (i < a.length || j < b.length) {
    if (merged.length % AT_ONCE === 0) yield 0.8 + (0.2 * merged.length) / list.length;
    merged.push(j === b.length || (i < a.length && compare(a[i], b[j]) <= 0) ? a[i++] : b[j++]);
  }
  return merged;
}
