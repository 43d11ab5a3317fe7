import { LINEAR_OF_CODE } from "../colour/srgb";
import { type Rgba } from "../raster/types";
import { type CurvePoint } from "../tone/curve";
import { homographyOf, seenAt, type Homography } from "./homography";
import { BARE, CORNERS, DETAILS, drawWedge, HEIGHT_MM, markedShare, PATCHES, WIDTH_MM } from "./layout";

/** A photograph on which no wedge can be read, and why. */
export class WedgeError extends Error {
  constructor(why: string) {
    super(why);
    this.name = "WedgeError";
  }
}

/** What a photograph of a wedge says. */
export interface WedgeReading {
  /** Share made and share seen, 0..1. */
  readonly steps: readonly CurvePoint[];
  /** The smallest lone dot, line and gap that held, in dots of the machine; null where none did. */
  readonly held: { readonly dot: number | null; readonly line: number | null; readonly gap: number | null };
  /** Where the corners were found on the photograph, in its pixels. */
  readonly corners: readonly (readonly [number, number])[];
}

/** A detail holds when this much of what it should mark is marked. */
const HOLDS = 0.5;

/**
 * Reads a step wedge off a photograph: the corner marks are found and say how the wedge lies; the light is evened by the
 * bare material between the steps, and what is seen is told between that and the full marks.
 *
 * @param burnsPale  marks are paler than the material
 * @throws WedgeError
 * @see Murray, "Monochrome reproduction in photoengraving", J. Franklin Institute 221, 1936: share from reflectance
 */
export function readWedge(photo: Rgba, dotsPerInch: number, burnsPale: boolean): WedgeReading {
  const light = lightOf(photo);
  const spots = cornerSpots(burnsPale ? turnedRound(light) : light);
  const { map, corners } = oriented(light, spots, burnsPale);
  const across = Math.sqrt(
    (corners[1][0] - corners[0][0]) * (corners[1][0] - corners[0][0]) +
      (corners[1][1] - corners[0][1]) * (corners[1][1] - corners[0][1]),
  );
  if (across < 3 * WIDTH_MM)
    throw new WedgeError(
      `The wedge is ${Math.round(across)} pixels wide on the photograph; ${3 * WIDTH_MM} or more are needed.`,
    );
  const bare = surface(BARE.map(([x, y]) => ({ x, y, light: meanIn(light, map, x - 0.5, y - 0.5, 1, 1) })));
  const solid = PATCHES.find((p) => p.percent === 100)!;
  const full = meanOf(light, map, solid) / bare(solid.x + solid.width / 2, solid.y + solid.height / 2);
  if (!(burnsPale ? full > 1.1 : full < 0.9))
    throw new WedgeError(
      `Full marks are not ${burnsPale ? "paler" : "darker"} than the bare material on the photograph.`,
    );
  const shareOf = (box: { x: number; y: number; width: number; height: number }): number => {
    const seen = meanOf(light, map, box) / bare(box.x + box.width / 2, box.y + box.height / 2);
    return (1 - seen) / (1 - full);
  };
  const steps = PATCHES.map((p): CurvePoint => [p.percent / 100, shareOf(p)]).toSorted((a, b) => a[0] - b[0]);
  const gray = drawWedge(dotsPerInch);
  const smallest = (kind: "dot" | "line" | "gap"): number | null => {
    let found: number | null = null;
    for (const detail of DETAILS.filter((d) => d.kind === kind).toReversed()) {
      const made = markedShare(gray, detail, dotsPerInch);
      const seen = shareOf(detail);
      const held = kind === "gap" ? (1 - seen) / (1 - made) : seen / made;
      if (held < HOLDS) break;
      found = detail.dots;
    }
    return found;
  };
  return { steps, held: { dot: smallest("dot"), line: smallest("line"), gap: smallest("gap") }, corners };
}

interface Light {
  readonly width: number;
  readonly height: number;
  /** Linear light, 0..1. */
  readonly data: Float32Array;
}

function lightOf({ width, height, data }: Rgba): Light {
  const out = new Float32Array(width * height);
  for (let i = 0, o = 0; i < out.length; i++, o += 4)
    out[i] =
      0.2126 * LINEAR_OF_CODE[data[o]] +
      0.7152 * LINEAR_OF_CODE[data[o + 1]] +
      0.0722 * LINEAR_OF_CODE[data[o + 2]];
  return { width, height, data: out };
}

/** What is pale becomes dark: only for finding marks, for light that falls off is then no longer a factor. */
function turnedRound({ width, height, data }: Light): Light {
  const most = data.reduce((a, b) => Math.max(a, b), 0);
  return { width, height, data: data.map((v) => 1.02 * most - v) };
}

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly area: number;
  /** Share of its box that it fills: a square more than a disc. */
  readonly fill: number;
}

/** Dark spots that may be corner marks: about as wide as high, none of them at the picture's edge. */
function cornerSpots({ width, height, data }: Light): Spot[] {
  const dark = darkness(width, height, data);
  const seen = new Uint8Array(dark.length);
  const spots: Spot[] = [];
  const least = (width * height) / 20000;
  for (let start = 0; start < dark.length; start++) {
    if (!dark[start] || seen[start]) continue;
    const list = [start];
    seen[start] = 1;
    let [l, t, r, b, sx, sy] = [width, height, 0, 0, 0, 0];
    for (let k = 0; k < list.length; k++) {
      const i = list[k];
      const [x, y] = [i % width, Math.floor(i / width)];
      [l, t, r, b] = [Math.min(l, x), Math.min(t, y), Math.max(r, x), Math.max(b, y)];
      [sx, sy] = [sx + x, sy + y];
      for (const n of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width])
        if (n >= 0 && n < dark.length && dark[n] && !seen[n]) {
          seen[n] = 1;
          list.push(n);
        }
    }
    const [w, h] = [r - l + 1, b - t + 1];
    if (list.length < least || l === 0 || t === 0 || r === width - 1 || b === height - 1) continue;
    if (w > 1.8 * h || h > 1.8 * w || list.length < 0.5 * w * h) continue;
    spots.push({
      x: sx / list.length + 0.5,
      y: sy / list.length + 0.5,
      area: list.length,
      fill: list.length / (w * h),
    });
  }
  return spots;
}

/** Pixels darker than their surroundings, however uneven the light: by the mean of a wide square about each. */
function darkness(width: number, height: number, data: Float32Array): Uint8Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += data[y * width + x];
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1] + row;
    }
  const reach = Math.round(Math.max(width, height) / 8);
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const [t, b] = [Math.max(0, y - reach), Math.min(height, y + reach)];
    for (let x = 0; x < width; x++) {
      const [l, r] = [Math.max(0, x - reach), Math.min(width, x + reach)];
      const at = (u: number, v: number) => sums[v * (width + 1) + u];
      const mean = (at(r, b) - at(l, b) - at(r, t) + at(l, t)) / ((r - l) * (b - t));
      if (data[y * width + x] < 0.62 * mean) out[y * width + x] = 1;
    }
  }
  return out;
}

/** The four spots that are the corners, and which way up: the map under which bare places are bare and the steps fit. */
function oriented(
  light: Light,
  spots: readonly Spot[],
  burnsPale: boolean,
): { map: Homography; corners: (readonly [number, number])[] } {
  const { width, height } = light;
  const ends: readonly (readonly [number, number])[] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  // In a picture that is not turned by much the corners are the outermost spots.
  const far = (s: Spot, [x, y]: readonly [number, number]) => Math.abs(s.x - x) + Math.abs(s.y - y);
  const outer = ends.map((end) =>
    spots.reduce<Spot | null>((a, s) => (!a || far(s, end) < far(a, end) ? s : a), null),
  );
  if (outer.some((s) => s === null) || new Set(outer).size < 4)
    throw new WedgeError(
      `${new Set(outer.filter(Boolean)).size} corner marks were found; all four must be on the photograph, with some bare material round them.`,
    );
  let best: { map: Homography; corners: (readonly [number, number])[]; off: number } | null = null;
  for (let turn = 0; turn < 4; turn++) {
    const corners = CORNERS.map((_, k) => [outer[(k + turn) % 4]!.x, outer[(k + turn) % 4]!.y] as const);
    const map = homographyOf(CORNERS, corners);
    if (!map) continue;
    const values = PATCHES.map((p) => ({ made: p.percent / 100, light: meanOf(light, map, p) }));
    const off =
      (burnsPale ? 1 : -1) *
      correlation(
        values.map((v) => v.made),
        values.map((v) => v.light),
      );
    if (!best || off > best.off) best = { map, corners, off };
  }
  if (!best || best.off < 0.7) throw new WedgeError("What lies between the corner marks is not this wedge.");
  return best;
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  a.forEach((x, k) => {
    ab += (x - ma) * (b[k] - mb);
    aa += (x - ma) * (x - ma);
    bb += (b[k] - mb) * (b[k] - mb);
  });
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/** Samples along either side of what is measured. */
const SAMPLES = 40;
/** Of a step this much of each side is left out, in mm, where it meets the bare material. */
const RIM = 1;

const meanOf = (
  light: Light,
  map: Homography,
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): number =>
  height > 8
    ? meanIn(light, map, x + RIM, y + RIM, width - 2 * RIM, height - 2 * RIM)
    : meanIn(light, map, x, y, width, height);

function meanIn(light: Light, map: Homography, x: number, y: number, width: number, height: number): number {
  let sum = 0;
  for (let v = 0; v < SAMPLES; v++)
    for (let u = 0; u < SAMPLES; u++) {
      const [px, py] = seenAt(map, x + ((u + 0.5) / SAMPLES) * width, y + ((v + 0.5) / SAMPLES) * height);
      sum += between(light, px - 0.5, py - 0.5);
    }
  return sum / (SAMPLES * SAMPLES);
}

function between({ width, height, data }: Light, x: number, y: number): number {
  const [u, v] = [Math.max(0, Math.min(width - 1.001, x)), Math.max(0, Math.min(height - 1.001, y))];
  const [l, t] = [Math.floor(u), Math.floor(v)];
  const [a, b] = [u - l, v - t];
  const i = t * width + l;
  return (
    (1 - b) * ((1 - a) * data[i] + a * data[i + 1]) +
    b * ((1 - a) * data[i + width] + a * data[i + width + 1])
  );
}

/** A surface of the second degree through samples of light, by least squares. */
function surface(
  samples: readonly { x: number; y: number; light: number }[],
): (x: number, y: number) => number {
  const terms = (x: number, y: number): number[] => {
    const [u, v] = [x / WIDTH_MM - 0.5, y / HEIGHT_MM - 0.5];
    return [1, u, v, u * u, u * v, v * v];
  };
  const n = 6;
  const rows = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { x, y, light } of samples) {
    const t = terms(x, y);
    for (let r = 0; r < n; r++) {
      for (let c = 0; c < n; c++) rows[r][c] += t[r] * t[c];
      rows[r][n] += t[r] * light;
    }
  }
  for (let c = 0; c < n; c++) {
    const pivot = rows[c][c] || 1e-12;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const by = rows[r][c] / pivot;
      for (let k = c; k <= n; k++) rows[r][k] -= by * rows[c][k];
    }
  }
  const weights = rows.map((row, k) => row[n] / (row[k] || 1e-12));
  return (x, y) => terms(x, y).reduce((sum, t, k) => sum + t * weights[k], 0);
}
