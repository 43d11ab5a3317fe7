import { type Rgba } from "@hardline/core/raster/types";
import { proposedLift } from "@hardline/core/reading/proposal";
import { readArtwork } from "@hardline/core/reading/reading";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type LiftPicture } from "@hardline/demo";
import { bandAbout } from "./band";

export interface LiftRow {
  /** Mean error of the cover within twelve pixels of part-covered ones, in percent. */
  readonly band: number;
  /** Mean error of what is seen on navy there, of 255. */
  readonly navy: number;
  /** Solid pixels, four pixels or more inside, that lost more than a fifth of their cover, in percent. */
  readonly lost: number;
  /** Pixels beyond the band that are not quite clear, in percent. */
  readonly haze: number;
  readonly result: Rgba;
}

const NAVY = [22, 32, 64];

/** Lifts a drawing and measures how far its cover, and what is seen of it on navy, are from the truth. */
export async function measureLift(known: LiftPicture, op: "read" | "bare" | "plain"): Promise<LiftRow> {
  const { picture, alpha, ink } = known;
  const { width, height } = picture;
  const result = op === "plain" ? plainLift(picture) : await lifted(picture, op);
  const band = bandAbout(alpha, width, height);
  const solid = bandAbout(alpha, width, height, 4);
  const count = { band: 0, solid: 0, out: 0 };
  let [off, seen, lost, haze] = [0, 0, 0, 0];
  for (let i = 0, o = 0; i < alpha.length; i++, o += 4) {
    const is = result.data[o + 3];
    if (band[i]) {
      count.band++;
      off += Math.abs(is - alpha[i]) / 255;
      for (let k = 0; k < 3; k++) {
        const on = (colour: number, cover: number) => (colour * cover + NAVY[k] * (255 - cover)) / 255;
        seen += Math.abs(on(result.data[o + k], is) - on(ink[k], alpha[i])) / 3;
      }
    }
    if (alpha[i] === 255 && !solid[i]) {
      count.solid++;
      if (is < 204) lost++;
    }
    if (alpha[i] === 0 && !band[i]) {
      count.out++;
      if (is > 0) haze++;
    }
  }
  return {
    band: (100 * off) / count.band,
    navy: seen / count.band,
    lost: (100 * lost) / Math.max(1, count.solid),
    haze: (100 * haze) / Math.max(1, count.out),
    result,
  };
}

async function lifted(picture: Rgba, op: "read" | "bare"): Promise<Rgba> {
  const { width, height } = picture;
  const facts = { sha256: "", width, height, vector: false };
  const reading = readArtwork(picture, facts);
  const lift = op === "read" ? proposedLift(reading) : { op: "lift" };
  const stages = [{ stage: "clear", fringe: "none", ops: [lift] }];
  const route = readRoute({ format: "hard-line-route", version: 1, name: "x", stages });
  const results = await new Runner().run(route, { facts, pixels: async () => picture });
  return as(results[1].result, "picture").colour;
}

/**
 * The plain way, to be measured against: paper by a large closing and a blur, ink by the darkest thousandth, cover as
 * the mixture of the two.
 */
function plainLift({ width, height, data }: Rgba): Rgba {
  const tile = 16;
  const [columns, rows] = [Math.ceil(width / tile), Math.ceil(height / tile)];
  const luma = (o: number) => data[o] * 0.2126 + data[o + 1] * 0.7152 + data[o + 2] * 0.0722;
  const most = new Float64Array(columns * rows);
  const colour = Array.from({ length: columns * rows }, () => [0, 0, 0]);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [t, o] = [Math.floor(y / tile) * columns + Math.floor(x / tile), (y * width + x) * 4];
      if (luma(o) > most[t]) [most[t], colour[t]] = [luma(o), [data[o], data[o + 1], data[o + 2]]];
    }
  const around = (from: number[][], better: (values: number[][]) => number[]) =>
    from.map((_, t) => {
      const [c, r] = [t % columns, Math.floor(t / columns)];
      const near: number[][] = [];
      for (let y = Math.max(0, r - 4); y <= Math.min(rows - 1, r + 4); y++)
        for (let x = Math.max(0, c - 4); x <= Math.min(columns - 1, c + 4); x++)
          near.push(from[y * columns + x]);
      return better(near);
    });
  const bright = (v: number[]) => v[0] + v[1] + v[2];
  let paper = around(colour, (n) => n.reduce((a, b) => (bright(a) > bright(b) ? a : b)));
  paper = around(paper, (n) => n.reduce((a, b) => (bright(a) < bright(b) ? a : b)));
  paper = around(paper, (n) => [0, 1, 2].map((k) => n.reduce((s, v) => s + v[k], 0) / n.length));
  const order = Array.from({ length: width * height }, (_, i) => i).sort((a, b) => luma(a * 4) - luma(b * 4));
  const darkest = order.slice(0, Math.ceil(order.length / 1000));
  const ink = [0, 1, 2].map((k) => darkest.reduce((s, i) => s + data[i * 4 + k], 0) / darkest.length);
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [p, o] = [paper[Math.floor(y / tile) * columns + Math.floor(x / tile)], (y * width + x) * 4];
      let [dot, square] = [0, 0];
      for (let k = 0; k < 3; k++) {
        dot += (p[k] - data[o + k]) * (p[k] - ink[k]);
        square += (p[k] - ink[k]) ** 2;
      }
      for (let k = 0; k < 3; k++) out[o + k] = ink[k];
      out[o + 3] = Math.round(255 * Math.min(1, Math.max(0, dot / square)));
    }
  return { width, height, data: out };
}
