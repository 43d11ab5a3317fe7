import sharp from "sharp";
import { clamp, mix, Noise, ramp } from "./noise";

/** A thing turned on a lathe: its radius at each height, and its surface. */
interface Turned {
  readonly width: number;
  readonly height: number;
  readonly top: number;
  readonly bottom: number;
  /** Radius in pixels at height 0..1 from the top. */
  readonly radius: (t: number) => number;
  readonly colour: (t: number, round: number) => readonly [number, number, number];
  /** How much it mirrors what is around it. */
  readonly shine: number;
}

/** A brass ship's bell, with a lip, two turned lines and a crown. */
const BELL: Turned = {
  width: 1600,
  height: 1700,
  top: 190,
  bottom: 1510,
  radius: (t) =>
    t < 0.1
      ? 62 + 30 * Math.sin(Math.PI * clamp(t / 0.1))
      : t < 0.16
        ? mix(70, 250, ramp(0.1, 0.165, t))
        : 250 +
          90 * ramp(0.16, 0.36, t) +
          210 * ramp(0.55, 0.93, t) ** 2 +
          34 * ramp(0.93, 0.97, t) -
          18 * ramp(0.98, 1, t),
  colour: (t) => ((t > 0.3 && t < 0.312) || (t > 0.74 && t < 0.752) ? [96, 62, 22] : [212, 158, 66]),
  shine: 0.75,
};

/** A mooring buoy: orange with a white band and a ring on top. */
const BUOY: Turned = {
  width: 1500,
  height: 1500,
  top: 170,
  bottom: 1330,
  radius: (t) => (t < 0.12 ? 46 : Math.max(46, 520 * Math.sqrt(Math.max(0, 1 - ((t - 0.56) / 0.44) ** 2)))),
  colour: (t) => (t < 0.12 ? [70, 74, 80] : t > 0.47 && t < 0.63 ? [238, 236, 228] : [222, 84, 30]),
  shine: 0.25,
};

/** What a shiny surface mirrors, by the direction it looks in: a window, a dark bench, a lit ceiling. */
function around(x: number, y: number): number {
  const window = ramp(-0.62, -0.52, x) * ramp(-0.18, -0.28, x) * ramp(-0.75, -0.6, y) * ramp(0.5, 0.2, y);
  const ceiling = ramp(0.1, -0.8, y) * 0.5;
  const bench = ramp(0.2, 0.7, y) * 0.35;
  return 0.25 + 1.3 * window + ceiling - bench + 0.5 * ramp(0.72, 0.86, x) * ramp(0.99, 0.9, x);
}

const TIMES = 2;

/** Colour and cover of a turned thing, twice as fine and then brought down. */
async function drawn(thing: Turned): Promise<Buffer> {
  const [w, h] = [thing.width * TIMES, thing.height * TIMES];
  const tall = (thing.bottom - thing.top) * TIMES;
  const noise = new Noise(91);
  const out = Buffer.alloc(w * h * 4);
  for (let y = thing.top * TIMES; y < thing.bottom * TIMES; y++) {
    const t = (y - thing.top * TIMES) / tall;
    const r = thing.radius(t) * TIMES;
    const slope =
      ((thing.radius(Math.min(1, t + 0.002)) - thing.radius(Math.max(0, t - 0.002))) * TIMES) /
      (0.004 * tall);
    for (let x = Math.ceil(w / 2 - r); x < w / 2 + r; x++) {
      const across = (x - w / 2) / r;
      const z = Math.sqrt(Math.max(0, 1 - across * across));
      const n = Math.hypot(across, z, slope);
      const [nx, ny, nz] = [across / n, -slope / n, z / n];
      const diffuse = clamp(-0.5 * nx - 0.55 * ny + 0.66 * nz);
      const mirror = around(2 * nz * nx, 2 * nz * ny + 0.02 * (noise.octaves(x * 0.01, y * 0.004, 3) - 0.5));
      const spot = clamp(-0.42 * nx - 0.45 * ny + 0.79 * nz) ** 60;
      const grain = 1 + 0.08 * (noise.octaves(x * 0.02, y * 0.16, 3) - 0.5);
      const base = thing.colour(t, across);
      const light = (0.16 + 0.84 * diffuse) * (1 - thing.shine) + mirror * thing.shine * (0.35 + 0.65 * nz);
      const o = (y * w + x) * 4;
      for (let k = 0; k < 3; k++) out[o + k] = clamp(base[k] * light * grain + 235 * spot * 0.8, 0, 255);
      out[o + 3] = 255;
    }
  }
  return sharp(out, { raw: { width: w, height: h, channels: 4 } })
    .resize(thing.width, thing.height, { kernel: "lanczos3" })
    .raw()
    .toBuffer();
}

/** A picture of a thing, and its true cover. */
export interface StudioShot {
  readonly jpeg: Buffer;
  readonly width: number;
  readonly height: number;
  readonly alpha: Buffer;
}

async function shot(
  thing: Turned,
  ground: readonly [number, number, number],
  seed: number,
): Promise<StudioShot> {
  const { width, height } = thing;
  const rgba = await drawn(thing);
  const noise = new Noise(seed);
  const out = Buffer.alloc(width * height * 3);
  const alpha = Buffer.alloc(width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const fall =
        1.05 -
        0.16 * Math.hypot(x / width - 0.45, y / height - 0.4) +
        0.02 * (noise.octaves(x * 0.02, y * 0.02, 3) - 0.5);
      const a = rgba[i * 4 + 3] / 255;
      const grain = (noise.random() + noise.random() - 1) * 4;
      for (let k = 0; k < 3; k++)
        out[i * 3 + k] = clamp(mix(ground[k] * fall, rgba[i * 4 + k], a) + grain, 0, 255);
      alpha[i] = rgba[i * 4 + 3];
    }
  const jpeg = await sharp(out, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90 })
    .toBuffer();
  return { jpeg, width, height, alpha };
}

/** The bell before a plain dark cloth. */
export const bellShot = (): Promise<StudioShot> => shot(BELL, [38, 41, 48], 5);
/** The buoy before a plain pale wall. */
export const buoyShot = (): Promise<StudioShot> => shot(BUOY, [226, 225, 219], 6);
