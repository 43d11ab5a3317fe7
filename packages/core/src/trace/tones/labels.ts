import { workSlice, rowsAtOnce, type Work } from "../../maths/work";
import { componentsOf } from "../../region/components";
import { openBySquare } from "../../region/opening";
import { off, type Parted } from "./values";

/**
 * Which flat value every pixel is of, by number. An edge between two values passes through what lies between them, and
 * would leave a thread of a third along it: a band thinner than `edge` that lies between two others is shared out to them.
 *
 * @param edge  width in pixels up to which a band is an edge
 */
export function* labelsOf(parted: Parted, edge: number): Work<Uint8Array> {
  const { width, height, centres } = parted;
  const labels = new Uint8Array(width * height);
  const atOnce = rowsAtOnce(2 * width * centres.length);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.3 * y) / height;
    for (let x = 0; x < width; x++, i++) labels[i] = nearest(parted, i);
  }
  if (centres.length < 3) return labels;
  const thin = new Uint8Array(labels.length);
  for (const k of centres.keys()) {
    const mask = labels.map((l) => +(l === k));
    const at = (s: number) => 0.3 + (0.5 * (k + s)) / centres.length;
    yield* workSlice(openBySquare(mask, width, height, edge), at(0), at(1));
    for (let i = 0; i < labels.length; i++) if (labels[i] === k && mask[i] === 0) thin[i] = 1;
  }
  const given = labels.slice();
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.8 + (0.2 * y) / height;
    for (let x = 0; x < width; x++, i++) if (thin[i]) labels[i] = sharedOut(parted, given, x, y, edge);
  }
  return labels;
}

function nearest(parted: Parted, i: number): number {
  let [best, least] = [0, Infinity];
  for (const [k, centre] of parted.centres.entries()) {
    const d = off(parted, i, centre);
    if (d < least) [least, best] = [d, k];
  }
  return best;
}

/** Ways across a pixel: along, down and both slants. */
const WAYS = [
  [1, 0],
  [0, 1],
  [1, 1],
  [1, -1],
] as const;

/**
 * Of the two values that a thin band goes over from and to, the one that a pixel of it is nearer to: those furthest from
 * each other, as a walk along the band only comes to what lies between them. Where the same lies on both sides it is no
 * edge but a thin stroke, and keeps its own.
 */
function sharedOut(parted: Parted, given: Uint8Array, x: number, y: number, reach: number): number {
  const { width, centres } = parted;
  const i = y * width + x;
  const own = given[i];
  let [best, most] = [own, 0];
  for (const [dx, dy] of WAYS) {
    const a = valueTowards(parted, given, x, y, dx, dy, reach);
    const b = valueTowards(parted, given, x, y, -dx, -dy, reach);
    if (a === own || b === own || !isBetween(centres[own], centres[a], centres[b])) continue;
    const apart = distance(centres[a], centres[b]);
    if (apart <= most) continue;
    most = apart;
    best = off(parted, i, centres[a]) < off(parted, i, centres[b]) ? a : b;
  }
  return best;
}

/** The value that a pixel's own goes over into on one way: as far as it goes on as it began, and no further. */
function valueTowards(
  { width, height, centres }: Parted,
  given: Uint8Array,
  x: number,
  y: number,
  dx: number,
  dy: number,
  reach: number,
): number {
  const own = given[y * width + x];
  let at = own;
  for (let step = 1; step <= reach; step++) {
    const [u, v] = [x + step * dx, y + step * dy];
    if (u < 0 || v < 0 || u >= width || v >= height) break;
    const next = given[v * width + u];
    if (next === at) continue;
    if (at !== own && !isBetween(centres[at], centres[own], centres[next])) break;
    at = next;
  }
  return at;
}

/** A value lies between two others where going by way of it is hardly further. */
const DETOUR = 1.15;

const distance = (p: readonly number[], q: readonly number[]): number =>
  Math.sqrt(p.reduce((sum, v, c) => sum + (v - q[c]) * (v - q[c]), 0));

function isBetween(m: readonly number[], a: readonly number[], b: readonly number[]): boolean {
  return distance(a, m) + distance(m, b) <= DETOUR * distance(a, b);
}

/**
 * Patches smaller than an area become what lies most around them.
 * @returns how many shapes, and holes in them, went by that
 */
export function* withoutSpecks(
  labels: Uint8Array,
  width: number,
  height: number,
  smallest: number,
): Work<{ readonly specks: number; readonly pinholes: number }> {
  const before = labels.slice();
  const known = new Uint8Array(labels.length);
  const patch: number[] = [];
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.8 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (known[i]) continue;
      const own = labels[i];
      const around = new Map<number, number>();
      patch.length = 0;
      patch.push(i);
      known[i] = 1;
      for (let k = 0; k < patch.length; k++) {
        const p = patch[k];
        const px = p % width;
        for (const [q, inside] of [
          [p - 1, px > 0],
          [p + 1, px < width - 1],
          [p - width, p >= width],
          [p + width, p < labels.length - width],
        ] as const) {
          if (!inside) continue;
          if (labels[q] !== own) around.set(labels[q], (around.get(labels[q]) ?? 0) + 1);
          else if (!known[q]) {
            known[q] = 1;
            patch.push(q);
          }
        }
      }
      if (patch.length >= smallest || around.size === 0) continue;
      const [into] = [...around].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0];
      for (const p of patch) labels[p] = into;
    }
  }
  // A speck with the soft edge round it is one.
  const gone = (isGround: boolean) =>
    componentsOf(width, height, (y, row) => {
      for (let x = 0, i = y * width; x < width; x++, i++)
        row[x] = +(labels[i] !== before[i] && (before[i] === 0) === isGround);
    });
  const specks = yield* workSlice(gone(false), 0.8, 0.9);
  const pinholes = yield* workSlice(gone(true), 0.9, 1);
  return { specks: specks.length, pinholes: pinholes.length };
}
