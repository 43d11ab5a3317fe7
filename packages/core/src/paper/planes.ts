import { halveRgba } from "../raster/halve";
import { type Rgba } from "../raster/types";

/** A picture as lightness and two differences of colours, each a number a pixel, in codes. */
export interface Planes {
  readonly width: number;
  readonly height: number;
  readonly data: readonly [Float32Array, Float32Array, Float32Array];
}

/** The picture halved until its longer side is no longer than `side`, and how often that was. */
export function smallerThan(picture: Rgba, side: number): { small: Rgba; times: number } {
  let [small, times] = [picture, 0];
  for (; Math.max(small.width, small.height) > side; times++) small = halveRgba(small);
  return { small, times };
}

export function planesOf({ width, height, data }: Rgba): Planes {
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  for (let i = 0, o = 0; i < width * height; i++, o += 4) {
    const [r, g, b] = [data[o], data[o + 1], data[o + 2]];
    planes[0][i] = (r + 2 * g + b) / 4;
    planes[1][i] = (r - g) / 2;
    planes[2][i] = (r + g) / 4 - b / 2;
  }
  return { width, height, data: planes as unknown as Planes["data"] };
}

/** Means with weights 1, 2, 1 both ways. */
export function softened({ width, height, data }: Planes): Planes {
  const soft = data.map((plane) => {
    const [across, out] = [new Float32Array(plane.length), new Float32Array(plane.length)];
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const [left, right] = [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i];
        across[i] = (plane[left] + 2 * plane[i] + plane[right]) / 4;
      }
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const [above, below] = [y > 0 ? i - width : i, y + 1 < height ? i + width : i];
        out[i] = (across[above] + 2 * across[i] + across[below]) / 4;
      }
    return out;
  });
  return { width, height, data: soft as unknown as Planes["data"] };
}

/** Between four pixels; the picture's rim goes on beyond it. Pixel 0 has its middle at 0.5. */
export function valueAt({ width, height }: Planes, plane: Float32Array, x: number, y: number): number {
  const u = Math.min(width - 1, Math.max(0, x - 0.5));
  const v = Math.min(height - 1, Math.max(0, y - 0.5));
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [right, below] = [i + 1 < width ? 1 : 0, j + 1 < height ? width : 0];
  const [fx, fy] = [u - i, v - j];
  const at = j * width + i;
  return (
    (plane[at] * (1 - fx) + plane[at + right] * fx) * (1 - fy) +
    (plane[at + below] * (1 - fx) + plane[at + below + right] * fx) * fy
  );
}

/** The same of a picture at a place, without making planes of all of it. */
export function coloursAt({ width, height, data }: Rgba, x: number, y: number): [number, number, number] {
  const u = Math.min(width - 1, Math.max(0, x - 0.5));
  const v = Math.min(height - 1, Math.max(0, y - 0.5));
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [right, below] = [i + 1 < width ? 4 : 0, j + 1 < height ? 4 * width : 0];
  const [fx, fy] = [u - i, v - j];
  const at = 4 * (j * width + i);
  const part = (k: number): number =>
    (data[at + k] * (1 - fx) + data[at + right + k] * fx) * (1 - fy) +
    (data[at + below + k] * (1 - fx) + data[at + below + right + k] * fx) * fy;
  const [r, g, b] = [part(0), part(1), part(2)];
  return [(r + 2 * g + b) / 4, (r - g) / 2, (r + g) / 4 - b / 2];
}
