import { Noise } from "@hardline/demo";
import { runToEnd } from "@hardline/core/maths/work";
import { coverOfRings } from "@hardline/core/path/cover";
import { ringsOf } from "@hardline/core/path/flatten";
import { componentsOf } from "@hardline/core/region/components";
import { resampleGray } from "@hardline/core/resample/resample";
import { type Gray } from "@hardline/core/raster/types";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import sharp from "sharp";

/*
 * Drawings of strokes half a pixel to two pixels wide: how much of what was drawn is in the traced outlines. Of a third
 * of the drawings nothing was known while rules were set.
 */

const [W, H] = [220, 170];
/** Points along a pixel's side at which the truth is known. */
const FINE = 8;
const COUNT = Number(process.argv[2] ?? 60);

type Point = readonly [number, number];
interface Drawing {
  readonly truth: Uint8Array;
  readonly gray: Gray;
  readonly unseen: boolean;
}

function drawing(k: number): Drawing {
  const noise = new Noise(501 + 37 * k);
  const truth = new Uint8Array(W * FINE * H * FINE);
  const base = 0.5 + 1.2 * noise.random();
  for (let n = 3 + Math.floor(4 * noise.random()); n > 0; n--) {
    const wide = Math.min(2, Math.max(0.5, base + 0.5 * (noise.random() - 0.5)));
    for (const line of strokesOf(noise))
      for (let i = 0; i + 1 < line.length; i++) ink(truth, line[i], line[i + 1], wide);
  }
  const data = new Uint8Array(W * H);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      let inside = 0;
      for (let v = 0; v < FINE; v++)
        for (let u = 0; u < FINE; u++) inside += truth[(y * FINE + v) * W * FINE + x * FINE + u];
      data[i] = 255 - Math.round((255 * inside) / (FINE * FINE));
    }
  return { truth, gray: { width: W, height: H, data }, unseen: k % 3 === 2 };
}

/** The same as a scanner brings it: a little blurred, under uneven light, noisy, and as a JPEG of quality 70. */
async function scanned({ gray, ...rest }: Drawing, k: number): Promise<Drawing> {
  const noise = new Noise(9001 + k);
  const [dark, way] = [40 * noise.random(), 2 * Math.PI * noise.random()];
  const soft = await sharp(gray.data, { raw: { width: W, height: H, channels: 1 } })
    .blur(0.5 + 0.3 * noise.random())
    .raw()
    .toBuffer();
  const lit = Buffer.alloc(W * H);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const share = ((x / W - 0.5) * Math.cos(way) + (y / H - 0.5) * Math.sin(way)) / 1.5 + 0.5;
      const grain = 8 * (noise.random() + noise.random() + noise.random() - 1.5);
      const paper = 250 - dark * share;
      lit[i] = Math.max(
        0,
        Math.min(255, Math.round(25 + ((paper - 25) * soft[i * (soft.length / lit.length)]) / 255 + grain)),
      );
    }
  const jpeg = await sharp(lit, { raw: { width: W, height: H, channels: 1 } })
    .jpeg({ quality: 70 })
    .toBuffer();
  const { data } = await sharp(jpeg).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
  return { ...rest, gray: { width: W, height: H, data: new Uint8Array(data) } };
}

/** A circle, a chain of straight strokes, a wave, hatching, or a spiral. */
function strokesOf(noise: Noise): Point[][] {
  const [cx, cy] = [20 + (W - 40) * noise.random(), 20 + (H - 40) * noise.random()];
  const turn = noise.random() * Math.PI;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const turned = (u: number, v: number): Point => [cx + u * c - v * s, cy + u * s + v * c];
  const along = (count: number, at: (k: number) => Point): Point[] =>
    Array.from({ length: count }, (_, k) => at(k));
  const some = noise.random();
  switch (Math.floor(5 * noise.random())) {
    case 0:
      return [
        along(61, (k) => [
          cx + (10 + 60 * some) * Math.cos(k * 0.10472),
          cy + (10 + 60 * some) * Math.sin(k * 0.10472),
        ]),
      ];
    case 1:
      return [
        along(3 + Math.floor(5 * some), () => [
          10 + (W - 20) * noise.random(),
          10 + (H - 20) * noise.random(),
        ]),
      ];
    case 2:
      return [along(90, (k) => turned(2.2 * (k - 45), (5 + 25 * some) * Math.sin(0.2 * (k - 45))))];
    case 3:
      return along(8, (k) => [k, 0]).map(([k]) => [
        turned((3 + 5 * some) * k, 30),
        turned((3 + 5 * some) * k, -30),
      ]);
    default:
      return [
        along(120, (k) => {
          const a = (k / 120) * (3 + 2 * some) * 2 * Math.PI;
          return [cx + (4 + 2.2 * a) * Math.cos(a), cy + (4 + 2.2 * a) * Math.sin(a)];
        }),
      ];
  }
}

/** Marks the points that are nearer than half a width to a straight stroke. */
function ink(truth: Uint8Array, [x0, y0]: Point, [x1, y1]: Point, wide: number): void {
  const r = wide / 2;
  const [dx, dy] = [x1 - x0, y1 - y0];
  const whole = dx * dx + dy * dy;
  const range = (a: number, b: number, side: number): [number, number] => [
    Math.max(0, Math.floor(FINE * (Math.min(a, b) - r))),
    Math.min(side * FINE - 1, Math.ceil(FINE * (Math.max(a, b) + r))),
  ];
  const [left, right] = range(x0, x1, W);
  const [top, bottom] = range(y0, y1, H);
  for (let v = top; v <= bottom; v++)
    for (let u = left; u <= right; u++) {
      const [px, py] = [(u + 0.5) / FINE - x0, (v + 0.5) / FINE - y0];
      const t = whole > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / whole)) : 0;
      if ((px - t * dx) ** 2 + (py - t * dy) ** 2 < r * r) truth[v * W * FINE + u] = 1;
    }
}

interface Found {
  readonly overlap: number;
  readonly ink: number;
  readonly parts: number;
}

function compared(found: Uint8Array, truth: Uint8Array): Found {
  let [both, any, own, drawn] = [0, 0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    both += found[i] & truth[i];
    any += found[i] | truth[i];
    own += found[i];
    drawn += truth[i];
  }
  return { overlap: both / any, ink: own / drawn, parts: partsIn(found) / partsIn(truth) };
}

const partsIn = (mask: Uint8Array): number =>
  runToEnd(
    componentsOf(W * FINE, H * FINE, (y, row) => row.set(mask.subarray(y * W * FINE, (y + 1) * W * FINE))),
  ).length;

async function traced(
  { gray }: Drawing,
  thin: number,
  threshold: number | "auto" = 128,
): Promise<Uint8Array> {
  const data = new Uint8Array(4 * W * H).fill(255);
  for (let i = 0; i < W * H; i++) data.fill(gray.data[i], 4 * i, 4 * i + 3);
  const facts = { sha256: "0", width: W, height: H, vector: false };
  const stages = [
    { stage: "trace", threshold, toleranceMm: 0.02, smallestMm2: 0.005, smallestHoleMm2: 0, thin },
  ];
  const route = readRoute({ format: "hard-line-route", version: 1, name: "thin", stages });
  const results = await new Runner().run(route, {
    facts,
    pixels: async () => ({ width: W, height: H, data }),
  });
  const last = results[results.length - 1].result;
  if (last.kind !== "paths") throw new Error("paths were wanted");
  const perMm = W / last.finish.widthMm;
  const rings = ringsOf(last.sets[0], 0.002).map((ring) => ring.map((v) => v * perMm * FINE));
  return runToEnd(coverOfRings(rings, W * FINE, H * FINE)).map((c) => (c >= 128 ? 1 : 0));
}

/** Enlarged eight times by the plain filter, and what is then under half. */
const plain = ({ gray }: Drawing): Uint8Array =>
  runToEnd(resampleGray(gray, W * FINE, H * FINE, "bicubic")).data.map((v) => (v < 128 ? 1 : 0));

async function main(): Promise<void> {
  console.log("Drawn with soft edges:");
  await table(async (k) => drawing(k), 128);
  console.log("\nThe same, scanned:");
  await table((k) => scanned(drawing(k), k), "auto");
}

async function table(of: (k: number) => Promise<Drawing>, threshold: number | "auto"): Promise<void> {
  const rows: { unseen: boolean; of: Record<string, Found> }[] = [];
  for (let k = 0; k < COUNT; k++) {
    const one = await of(k);
    const found = {
      "plain bicubic": compared(plain(one), one.truth),
      "trace as it was": compared(await traced(one, 0, threshold), one.truth),
      "thin strokes at 85 %": compared(await traced(one, 0.85, threshold), one.truth),
    };
    rows.push({ unseen: one.unseen, of: found });
  }
  for (const unseen of [true, false]) {
    const part = rows.filter((r) => r.unseen === unseen);
    console.log(
      `\n| ${unseen ? "unseen" : "seen"}, ${part.length} drawings | overlap, mean (0.85) | least | ink, worst tenth (0.9) | parts, median (1.1) | under bicubic by .01 |`,
    );
    console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
    for (const name of Object.keys(part[0].of)) {
      const list = (of: (f: Found) => number): number[] =>
        part.map((r) => of(r.of[name])).sort((a, b) => a - b);
      const overlap = list((f) => f.overlap);
      const mean = overlap.reduce((a, b) => a + b, 0) / overlap.length;
      const tenth = list((f) => f.ink)[Math.floor(0.1 * (part.length - 1))];
      const parts = list((f) => f.parts)[part.length >> 1];
      const under = part.filter((r) => r.of[name].overlap < r.of["plain bicubic"].overlap - 0.01).length;
      console.log(
        `| ${name} | ${mean.toFixed(3)} | ${overlap[0].toFixed(3)} | ${tenth.toFixed(2)} | ${parts.toFixed(2)} | ${under} |`,
      );
    }
  }
}
void main();
