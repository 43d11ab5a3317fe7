import { runToEnd } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { type Gray } from "../raster/types";

export type Pt = readonly [number, number];

/** Grey of polygons drawn one over another with soft edges, each in its own grey, on white. */
export function painted(
  width: number,
  height: number,
  shapes: readonly { readonly ring: readonly Pt[]; readonly grey: number }[],
): Gray {
  const data = new Float64Array(width * height).fill(255);
  for (const { ring, grey } of shapes) {
    const cover = runToEnd(coverOfRings([Float64Array.from(ring.flat())], width, height));
    for (let i = 0; i < data.length; i++) data[i] += ((grey - data[i]) * cover[i]) / 255;
  }
  return { width, height, data: Uint8Array.from(data, Math.round) };
}

/** A circle of many sides. */
export const disc = (x: number, y: number, radius: number, sides = 256): Pt[] =>
  Array.from({ length: sides }, (_, k) => {
    const a = (2 * Math.PI * k) / sides;
    return [x + radius * Math.cos(a), y + radius * Math.sin(a)] as const;
  });

/** A straight stroke with round ends. */
export function stroke([ax, ay]: Pt, [bx, by]: Pt, wide: number): Pt[] {
  const along = Math.atan2(by - ay, bx - ax);
  const cap = (x: number, y: number, from: number): Pt[] =>
    Array.from({ length: 33 }, (_, k) => {
      const a = from + (Math.PI * k) / 32;
      return [x + (wide / 2) * Math.cos(a), y + (wide / 2) * Math.sin(a)] as const;
    });
  return [...cap(bx, by, along - Math.PI / 2), ...cap(ax, ay, along + Math.PI / 2)];
}
