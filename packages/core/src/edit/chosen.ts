import { z } from "zod";
import { type Rect } from "../raster/types";
import { ringBoxOfPath } from "./find";
import { at, type Bench } from "./operation";

/** Places on the shapes that an edit is of. */
export const places = z.array(at).min(1).max(500).readonly();
/** Places on shapes that are done something with together. */
export const severalPlaces = z.array(at).min(2).max(500).readonly();

/** The shapes at places, each by the numbers of its outlines, none twice; places at which there is none say nothing. */
export function shapesAt(bench: Bench, at: readonly (readonly [number, number])[]): (readonly number[])[] {
  const shapes: (readonly number[])[] = [];
  const taken = new Set<number>();
  for (const place of at) {
    const shape = bench.shapeAt(place).filter((k) => !taken.has(k));
    if (shape.length === 0) continue;
    shape.forEach((k) => taken.add(k));
    shapes.push(shape);
  }
  return shapes;
}

/** Box of outlines, in mm. */
export function boxOf(bench: Bench, outlines: readonly number[]): Rect {
  const boxes = outlines.map((k) => ringBoxOfPath(bench.paths[k]));
  const [x, y] = [Math.min(...boxes.map((b) => b.x)), Math.min(...boxes.map((b) => b.y))];
  return {
    ...{ x, y },
    width: Math.max(...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(...boxes.map((b) => b.y + b.height)) - y,
  };
}
