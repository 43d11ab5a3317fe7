import sharp from "sharp";
import { clamp, mix, Noise, ramp } from "./noise";
import { type StudioShot } from "./turned";

const SIDE = 1500;

/** A puffin in flat washes; the paint is made of it below. */
const PUFFIN = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE}" height="${SIDE}">
<ellipse cx="740" cy="1330" rx="460" ry="70" fill="#7d9a86" fill-opacity=".75"/>
<path d="M600 1290l-30-150h60l30 150zM840 1290l-20-150h60l20 150z" fill="#d9722e"/>
<path d="M500 1310q80-70 190 0zM760 1310q80-70 190 0z" fill="#d9722e"/>
<path d="M470 640C360 860 420 1180 720 1200C1010 1190 1120 930 1010 640C960 460 560 440 470 640z" fill="#23262d"/>
<path d="M560 720C480 900 540 1140 700 1160C850 1150 900 900 800 700C740 640 610 640 560 720z" fill="#efe8d8"/>
<circle cx="690" cy="440" r="235" fill="#23262d"/>
<path d="M560 350C640 300 760 350 770 450C770 540 680 600 590 560C530 530 500 400 560 350z" fill="#efe8d8"/>
<path d="M545 385C460 350 330 390 285 490C380 560 500 570 560 530z" fill="#d9722e"/>
<path d="M470 366C410 372 360 400 330 432C360 500 420 546 470 552z" fill="#c23b22"/>
<path d="M430 380C410 430 412 500 440 548l24 4C444 500 444 430 462 368z" fill="#e8c15a"/>
<path d="M365 404C356 440 360 480 378 516l18 8C384 480 382 440 392 392z" fill="#e8c15a"/>
<circle cx="655" cy="420" r="26" fill="#23262d"/><path d="M600 455q55 26 110 0" stroke="#c23b22" stroke-width="14" fill="none"/>
<path d="M900 640C1020 760 1060 960 1000 1120C960 960 900 800 840 690z" fill="#3a3f49"/></svg>`;

interface Painted {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue of the paint, and how much of the paper it covers. */
  readonly paint: Buffer;
  /** Where there is paint at all, whatever its strength: whole inside, fading at the edges, 0..255. */
  readonly reach: Buffer;
}

/** Watercolour with soft, half-transparent edges: washes bleed, pool at their rims and granulate. */
export async function painted(): Promise<Painted> {
  const flat = await sharp(Buffer.from(PUFFIN)).blur(5).raw().toBuffer();
  const soft = await sharp(Buffer.from(PUFFIN)).extractChannel(3).blur(26).raw().toBuffer();
  const noise = new Noise(19);
  const out = Buffer.alloc(SIDE * SIDE * 4);
  const reach = Buffer.alloc(SIDE * SIDE);
  for (let y = 0, o = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++, o += 4) {
      const bleed = 34;
      const sx = Math.round(
        clamp(x + (noise.octaves(x * 0.012, y * 0.012, 4) - 0.5) * bleed * 2, 0, SIDE - 1),
      );
      const sy = Math.round(
        clamp(y + (noise.octaves(x * 0.012 + 70, y * 0.012 + 30, 4) - 0.5) * bleed * 2, 0, SIDE - 1),
      );
      const i = sy * SIDE + sx;
      const inside = soft[i] / 255;
      const rim = ramp(0.25, 0.5, inside) * ramp(0.85, 0.55, inside);
      const wash = noise.octaves(x * 0.006 + 5, y * 0.006, 4);
      const granule = noise.octaves(x * 0.23, y * 0.23, 3);
      const whole = (flat[i * 4 + 3] / 255) * ramp(0.02, 0.3, inside);
      const alpha = whole * clamp(0.62 + 0.42 * wash + 0.3 * rim + 0.22 * (granule - 0.5));
      for (let c = 0; c < 3; c++) {
        const paint = flat[i * 4 + c] / 255;
        out[o + c] = 255 * clamp(mix(paint, paint * 0.72, rim) + 0.1 * (wash - 0.5) + 0.05 * (granule - 0.5));
      }
      out[o + 3] = 255 * clamp(alpha);
      reach[o >> 2] = 255 * whole;
    }
  }
  return { width: SIDE, height: SIDE, paint: out, reach };
}

const asImage = ({ width, height, paint }: Painted) => sharp(paint, { raw: { width, height, channels: 4 } });

/** The painting as PNG with its own transparency. */
export const painting = async (): Promise<Buffer> =>
  asImage(await painted())
    .png()
    .toBuffer();

/** The painting as it was scanned, on white paper, as JPEG, and where there is paint. */
export async function paperShot(): Promise<StudioShot> {
  const all = await painted();
  const jpeg = await asImage(all).flatten({ background: "#ffffff" }).jpeg({ quality: 92 }).toBuffer();
  return { jpeg, width: all.width, height: all.height, alpha: all.reach };
}
