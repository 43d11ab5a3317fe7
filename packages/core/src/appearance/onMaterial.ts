import { workSlice, type Work } from "../maths/work";
import { dotsPerMm, mmOfDots, MM_PER_INCH } from "../maths/units";
import { type Material } from "../material/material";
import { WHOLE_FRAME } from "../path/frame";
import { readyGray } from "../raster/halve";
import { newGray, newRgba, type Gray, type Rgba } from "../raster/types";
import { viewGray } from "../view/view";
import { type Plates, type Tone } from "../result/result";
import { type View } from "../result/view";
import { grainAt } from "./grain";
import { rowsBetween, spreadMarks } from "./spread";

/** What is needed of a material to show it. */
export type Appearance = Pick<Material, "bareColour" | "markColour" | "grain" | "grainStrength" | "spreadMm">;

/** How much of a surface's own light and dark shows where it is marked: a mark covers most of it. */
const THROUGH_MARKS = 0.35;
/** How strong grain is at full strength, in shares of the surface's own brightness. */
const STRONGEST = 0.3;

/**
 * Marks as they will look on a material: each spread by the material's gain, in the material's colours, over its grain.
 * The whole piece is material, marked or not.
 */
export function* onMaterial(marks: Plates | Tone, view: View, appearance: Appearance): Work<Rgba> {
  const { part, width, height } = view;
  const { finish } = marks;
  const bare =
    marks.kind === "tone"
      ? yield* workSlice(seenTone(marks, view), 0, 0.6)
      : yield* workSlice(seenMarks(marks, view, appearance.spreadMm * dotsPerMm(finish)), 0, 0.6);
  const out = newRgba(width, height);
  const [from, to] = [parse(appearance.markColour), parse(appearance.bareColour)];
  const mm = (dots: number) => mmOfDots(dots, finish);
  for (let v = 0, i = 0; v < height; v++) {
    if (v % 16 === 0) yield 0.6 + (0.4 * v) / height;
    const y = mm(part.y + ((v + 0.5) / height) * part.height);
    for (let u = 0; u < width; u++, i++) {
      const share = bare.data[i] / 255;
      const x = mm(part.x + ((u + 0.5) / width) * part.width);
      const grain =
        appearance.grain === "none"
          ? 0
          : grainAt(appearance.grain, x, y) * appearance.grainStrength * STRONGEST;
      const light = 1 + grain * (THROUGH_MARKS + (1 - THROUGH_MARKS) * share);
      for (let c = 0; c < 3; c++)
        out.data[4 * i + c] = Math.min(255, Math.round((from[c] + (to[c] - from[c]) * share) * light));
      out.data[4 * i + 3] = 255;
    }
  }
  return out;
}

/** The part in view, from as many rows as it needs. */
function* seenMarks({ plates: [{ bits }] }: Plates, view: View, spread: number): Work<Gray> {
  const { part, width, height } = view;
  const from = Math.max(0, Math.min(bits.height - 1, Math.floor(part.y) - 2));
  const to = Math.min(bits.height, Math.max(from + 1, Math.ceil(part.y + part.height) + 2));
  const marks = yield* workSlice(spreadMarks(rowsBetween(bits, from, to), spread), 0, 0.8);
  yield* workSlice(readyGray(marks, part.width / width), 0.8, 1);
  return viewGray(marks, { ...part, y: part.y - from }, width, height);
}

/** Dots from afar are seen as the tone that they average to; it is bare where there is no art. */
function* seenTone({ gray, cover }: Tone, { part, width, height }: View): Work<Gray> {
  yield* readyGray(gray, part.width / width);
  const seen = viewGray(gray, part, width, height);
  if (!cover) return seen;
  const plane = { width: gray.width, height: gray.height, data: cover };
  yield* readyGray(plane, part.width / width);
  const art = viewGray(plane, part, width, height);
  return { width, height, data: seen.data.map((g, i) => 255 - Math.round(((255 - g) * art.data[i]) / 255)) };
}

const parse = (colour: string): readonly number[] =>
  [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16));

/** An even ramp from bare to full black, so many millimetres across: for swatches. */
export function grayRamp(width: number, height: number, acrossMm: number): Tone {
  const dotsPerInch = (width / acrossMm) * MM_PER_INCH;
  const finish = {
    widthPx: width,
    heightPx: height,
    dotsPerInch,
    widthMm: acrossMm,
    heightMm: (acrossMm * height) / width,
  };
  const gray = newGray(width, height);
  for (let i = 0; i < gray.data.length; i++)
    gray.data[i] = Math.round(255 * (1 - ((i % width) + 0.5) / width));
  return { kind: "tone", finish, frame: WHOLE_FRAME, gray, cover: null, ink: 0 };
}
