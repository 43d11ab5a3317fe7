import { runToEnd } from "../maths/work";
import { alphaAt, clearingFrom, pictureOf } from "../testing/clearings";
import { type Clearing } from "./clearing";
import { estimateForeground } from "./foreground";
import { pick } from "./pick";

const SIDE = 260;
const [WALL, COAT] = [
  [206, 214, 222],
  [96, 62, 40],
] as const;

/** Takes what is like the top left corner, and frees the edge. */
function cleared(clearing: Clearing, tolerance: number): Clearing {
  const { mask } = runToEnd(pick(clearing.source, 0, 0, tolerance, true));
  mask.forEach((taken, i) => {
    if (!taken || (clearing.held && clearing.held[i] >= 128)) return;
    clearing.taken[i] = 1;
    clearing.data[i * 4 + 3] = 0;
  });
  runToEnd(estimateForeground(clearing));
  return clearing;
}

/** Hairs about a ball: how many, how long and how wide at their root, in pixels. */
interface Coat {
  readonly hairs: number;
  readonly long: number;
  readonly wide: number;
}

/** Cover of a ball of radius 70 with hairs that run out to a point, as a lens sees it: from 36 places over three pixels. */
function coverOf({ hairs, long, wide }: Coat): Float64Array {
  const cover = new Float64Array(SIDE * SIDE);
  for (let i = 0; i < cover.length; i++)
    for (let n = 0; n < 36; n++) {
      const x = (i % SIDE) + ((n % 6) - 2.5) / 2 + 0.5 - SIDE / 2;
      const y = Math.floor(i / SIDE) + (Math.floor(n / 6) - 2.5) / 2 + 0.5 - SIDE / 2;
      const r = Math.hypot(x, y);
      const turn = (Math.atan2(y, x) / (2 * Math.PI) + 1) * hairs;
      const aside = Math.abs(turn - Math.round(turn)) * ((2 * Math.PI * r) / hairs);
      if (r < 70 || (r < 70 + long && aside < (wide / 2) * (1 - (r - 70) / long))) cover[i] += 1 / 36;
    }
  return cover;
}

/** The wall darkens from left to right by `fall`; both have two code values of grain. */
const drawn = (cover: Float64Array, fall: number) =>
  pictureOf(SIDE, SIDE, (x, y) => {
    const a = cover[y * SIDE + x];
    const of = (k: number): number => {
      const grain = (((x * 7919 + y * 104729 + k * 31) >>> 2) % 5) - 2;
      return Math.round(WALL[k] * (1 - (fall * x) / SIDE) * (1 - a) + COAT[k] * a) + grain;
    };
    return [of(0), of(1), of(2)];
  });

/** Mean error in percent over what is part covered and four pixels about it. */
function errorOf(clearing: Clearing, cover: Float64Array): number {
  let [off, count] = [0, 0];
  for (let y = 4; y < SIDE - 4; y++)
    for (let x = 4; x < SIDE - 4; x++) {
      let near = false;
      for (let v = y - 4; v <= y + 4 && !near; v++)
        for (let u = x - 4; u <= x + 4; u++) near ||= cover[v * SIDE + u] > 0 && cover[v * SIDE + u] < 1;
      if (!near) continue;
      count++;
      off += Math.abs(alphaAt(clearing, x, y) / 255 - cover[y * SIDE + x]);
    }
  return (100 * off) / count;
}

test.each([
  ["dense short fur", { hairs: 130, long: 14, wide: 2.2 }, 0],
  ["thin long hair", { hairs: 90, long: 34, wide: 1.6 }, 0],
  ["fur before a wall whose light falls off", { hairs: 120, long: 24, wide: 2 }, 0.06],
])("%s comes out hair by hair", (_, coat, fall) => {
  const cover = coverOf(coat);
  const clearing = cleared(clearingFrom(drawn(cover, fall)), 14);
  expect(errorOf(clearing, cover)).toBeLessThan(2);
});

test("the wall is gone from between hairs and from their colour", () => {
  const cover = coverOf({ hairs: 120, long: 24, wide: 2 });
  const { data } = cleared(clearingFrom(drawn(cover, 0)), 14);
  let [off, seen] = [0, 0];
  for (let i = 0; i < cover.length; i++) {
    if (cover[i] === 0 || cover[i] === 1 || data[i * 4 + 3] < 64) continue;
    seen++;
    off +=
      Math.abs(data[i * 4] - COAT[0]) +
      Math.abs(data[i * 4 + 1] - COAT[1]) +
      Math.abs(data[i * 4 + 2] - COAT[2]);
  }
  expect(seen).toBeGreaterThan(1000);
  expect(off / (3 * seen)).toBeLessThan(12);
});

test("a shaded ball with a hard edge keeps its own shades, though they lie between coat and wall", () => {
  const cover = coverOf({ hairs: 1, long: 1e-6, wide: 0 });
  const shaded = pictureOf(SIDE, SIDE, (x, y) => {
    const t = Math.min(1, Math.hypot(x + 0.5 - SIDE / 2, y + 0.5 - SIDE / 2) / 70) ** 2;
    const a = cover[y * SIDE + x];
    return [0, 1, 2].map((k) =>
      Math.round(WALL[k] * (1 - a) + (COAT[k] + 0.45 * t * (WALL[k] - COAT[k])) * a),
    ) as [number, number, number];
  });
  const clearing = cleared(clearingFrom(shaded), 8);
  let pale = 0;
  for (let i = 0; i < cover.length; i++) {
    const r = Math.hypot((i % SIDE) + 0.5 - SIDE / 2, Math.floor(i / SIDE) + 0.5 - SIDE / 2);
    if (r < 67 && clearing.data[i * 4 + 3] < 250) pale++;
  }
  expect(pale).toBe(0);
});

test("what is held stays as it came", () => {
  const cover = coverOf({ hairs: 120, long: 24, wide: 2 });
  const picture = drawn(cover, 0);
  const held = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE < SIDE / 2 ? 255 : 0));
  const clearing = { ...clearingFrom(picture), held };
  cleared(clearing, 14);
  for (let i = 0; i < held.length; i++)
    if (held[i])
      expect(clearing.data.subarray(i * 4, i * 4 + 4)).toEqual(picture.data.subarray(i * 4, i * 4 + 4));
});
