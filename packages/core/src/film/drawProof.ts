import { MM_PER_INCH } from "../maths/units";
import { workSlice, type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { flattened } from "../path/flatten";
import { boxOf, pathSetOf } from "../path/pathSet";
import { scaledPath } from "../path/scaled";
import { readyRgba } from "../raster/halve";
import { newRgba, type Rect, type Rgba } from "../raster/types";
import { viewRgba } from "../view/view";
import { type ProofSheet } from "./proofSheet";

/** Dots to the inch of a proof that is a picture. */
export const PROOF_DPI = 150;

/** A proof as a picture: the same sheet as on its page. @param pictures  one a way */
export function* drawProof(sheet: ProofSheet, pictures: readonly Rgba[]): Work<Rgba> {
  const perMm = PROOF_DPI / MM_PER_INCH;
  const out = newRgba(Math.round(sheet.widthMm * perMm), Math.round(sheet.heightMm * perMm));
  out.data.fill(255);
  for (const [k, { about, ground, ...box }] of sheet.pictures.entries()) {
    fill(out, inDots(about, perMm), ground);
    const at = inDots(box, perMm);
    const whole = { x: 0, y: 0, width: pictures[k].width, height: pictures[k].height };
    yield* readyRgba(pictures[k], whole.width / at.width);
    const seen = viewRgba(pictures[k], whole, at.width, at.height);
    for (let y = 0; y < at.height; y++)
      out.data.set(
        seen.data.subarray(4 * y * at.width, 4 * (y + 1) * at.width),
        4 * ((at.y + y) * out.width + at.x),
      );
    yield (0.5 * k) / sheet.pictures.length;
  }
  for (const { colour, ...box } of sheet.patches) fill(out, inDots(box, perMm), colour);
  for (const [k, { paths, colour }] of sheet.words.entries()) {
    const scaled = paths.map((path) => scaledPath(path, perMm));
    const set = pathSetOf({ name: "", use: "fill", colour }, scaled);
    const box = boxOf(set);
    if (!box) continue;
    const [left, top] = [Math.floor(box.x), Math.floor(box.y)];
    const [width, height] = [Math.ceil(box.width) + 2, Math.ceil(box.height) + 2];
    const rings = flattened(set, 0.05).map(({ points }) => points.map((v, i) => v - (i % 2 ? top : left)));
    const cover = yield* workSlice(
      coverOfRings(rings, width, height),
      0.5,
      0.5 + (0.5 * k) / sheet.words.length,
    );
    blend(out, { x: left, y: top, width, height }, cover, colour);
  }
  return out;
}

const inDots = ({ x, y, width, height }: Rect, perMm: number): Rect => ({
  x: Math.round(x * perMm),
  y: Math.round(y * perMm),
  width: Math.max(1, Math.round(width * perMm)),
  height: Math.max(1, Math.round(height * perMm)),
});

const channels = (colour: number): readonly number[] => [colour >> 16, (colour >> 8) & 255, colour & 255];

function fill({ width, data }: Rgba, box: Rect, colour: number): void {
  const codes = channels(colour);
  for (let y = box.y; y < box.y + box.height; y++)
    for (let x = box.x, o = 4 * (y * width + x); x < box.x + box.width; x++, o += 4)
      for (let c = 0; c < 3; c++) data[o + c] = codes[c];
}

function blend({ width, height, data }: Rgba, box: Rect, cover: Uint8Array, colour: number): void {
  const codes = channels(colour);
  for (let v = 0; v < box.height; v++)
    for (let u = 0; u < box.width; u++) {
      const [x, y] = [box.x + u, box.y + v];
      const share = cover[v * box.width + u] / 255;
      if (share === 0 || x < 0 || y < 0 || x >= width || y >= height) continue;
      const o = 4 * (y * width + x);
      for (let c = 0; c < 3; c++) data[o + c] = Math.round(data[o + c] + (codes[c] - data[o + c]) * share);
    }
}
