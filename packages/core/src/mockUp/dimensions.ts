import { figure } from "../inspect/check";
import { placeWords, type PlacedPrint } from "./place";
import { type MockUp } from "./result";
import { sceneOf } from "./stageOf";
import { type Point, type Surface } from "./surface";

/** A dimensioned drawing of where prints sit: lines over a picture of the thing, in shares of its width and height. */
export interface Dimensions {
  /** Where each print sits, in words. */
  readonly words: readonly string[];
  /** Outlines of the prints. */
  readonly outlines: readonly (readonly Point[])[];
  /** Lines with a stroke across both ends, and what they measure. */
  readonly measures: readonly { readonly from: Point; readonly to: Point; readonly words: string }[];
}

/** Distances under this, in mm, are not drawn. */
const NONE_MM = 0.25;
/** Pieces of a side where the area is bent. */
const PIECES = 12;

/** What a person at a press lays a ruler to; null where a photograph's places make no sense. */
export function dimensionsOf(of: MockUp): Dimensions | null {
  const scene = sceneOf(of, null);
  if (!scene) return null;
  const { width, height } = scene.stage;
  const share = (surface: Surface, at: Point): Point | null => {
    const seen = surface.seen(...at);
    return seen && [seen[0] / width, seen[1] / height];
  };
  const outlines: Point[][] = [];
  const measures: Dimensions["measures"][number][] = [];
  for (const print of scene.prints) {
    for (const surface of print.area.surfaces) {
      const { x, y, width: w, height: h } = print.box;
      const corners: Point[] = [
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ];
      const line = corners.flatMap((a, k) => {
        const b = corners[(k + 1) % 4];
        return Array.from({ length: PIECES }, (_, s): Point => [
          a[0] + ((b[0] - a[0]) * s) / PIECES,
          a[1] + ((b[1] - a[1]) * s) / PIECES,
        ]);
      });
      const seen = line.map((at) => share(surface, at));
      if (seen.every((p) => p !== null)) outlines.push(seen);
    }
    for (const { from, to, mm } of measured(print)) {
      if (mm < NONE_MM) continue;
      const ends = print.area.surfaces.map((s) => [share(s, from), share(s, to)]).find(([a, b]) => a && b);
      if (ends) measures.push({ from: ends[0]!, to: ends[1]!, words: `${figure(mm)} mm` });
    }
  }
  return { words: scene.prints.map(placeWords), outlines, measures };
}

/** Below where the area begins, from the middle line, and the print's own sides. */
function measured({ box, middle }: PlacedPrint): { from: Point; to: Point; mm: number }[] {
  const { x, y, width, height } = box;
  const off = 0.06 * Math.max(width, height);
  return [
    { from: [middle[0], 0], to: [middle[0], y], mm: Math.abs(y) },
    { from: [0, y + height / 2], to: [middle[0], y + height / 2], mm: Math.abs(middle[0]) },
    { from: [x, y + height + off], to: [x + width, y + height + off], mm: width },
    { from: [x + width + off, y], to: [x + width + off, y + height], mm: height },
  ];
}
