import { LINEAR_OF_CODE } from "../colour/srgb";
import { type Rgba } from "../raster/types";
import { seenAt, type Homography } from "../maths/homography";

/** A photograph as light. */
export interface Light {
  readonly width: number;
  readonly height: number;
  /** Linear light, 0..1. */
  readonly data: Float32Array;
}

export function lightOf({ width, height, data }: Rgba): Light {
  const out = new Float32Array(width * height);
  for (let i = 0, o = 0; i < out.length; i++, o += 4)
    out[i] =
      0.2126 * LINEAR_OF_CODE[data[o]] +
      0.7152 * LINEAR_OF_CODE[data[o + 1]] +
      0.0722 * LINEAR_OF_CODE[data[o + 2]];
  return { width, height, data: out };
}

/** A photograph a whole number of times smaller, each pixel the mean of those it stands for. */
export function smaller({ width, height, data }: Light, times: number): Light {
  if (times === 1) return { width, height, data };
  const [w, h] = [Math.floor(width / times), Math.floor(height / times)];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h * times; y++)
    for (let x = 0; x < w * times; x++)
      out[Math.floor(y / times) * w + Math.floor(x / times)] += data[y * width + x] / (times * times);
  return { width: w, height: h, data: out };
}

/** Samples along either side of what is measured. */
const SAMPLES = 40;

/** Mean light of a box of the wedge, in mm, under a map onto the photograph. @param samples  along either side */
export function meanIn(
  light: Light,
  map: Homography,
  x: number,
  y: number,
  width: number,
  height: number,
  samples = SAMPLES,
): number {
  let sum = 0;
  for (let v = 0; v < samples; v++)
    for (let u = 0; u < samples; u++) {
      const [px, py] = seenAt(map, x + ((u + 0.5) / samples) * width, y + ((v + 0.5) / samples) * height);
      sum += between(light, px - 0.5, py - 0.5);
    }
  return sum / (samples * samples);
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
