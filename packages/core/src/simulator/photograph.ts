import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { seeded } from "../maths/seeded";
import { sinPi } from "../maths/steady";
import { type Work } from "../maths/work";
import { newRgba, type Gray, type Rgba } from "../raster/types";
import { homographyOf } from "../maths/homography";

/** Colours of a material, 0xrrggbb. */
export interface MaterialColours {
  readonly bare: number;
  readonly marked: number;
}

/** How a photograph is taken. What is left out is a piece that fills a picture held nearly straight, in even light. */
export interface Shot {
  /** The piece is turned by so much about the middle of the picture, in degrees. */
  readonly turnDegrees: number;
  /** How far its corners are moved by looking from the side, as a share of the picture's sides. */
  readonly tilt: number;
  /** A lamp near by: how much brighter it is below it, and where that is, as shares of the picture's sides. */
  readonly lamp: { readonly strength: number; readonly x: number; readonly y: number };
  /** Colour of the light: what is seen of red, green and blue. */
  readonly tint: readonly [number, number, number];
  /** What the piece lies on, 0xrrggbb, and how far the material reaches beyond what is on it, in shares of its width. */
  readonly table: { readonly colour: number; readonly margin: number } | null;
}

const STRAIGHT: Shot = {
  ...{ turnDegrees: 0, tilt: 0, lamp: { strength: 0, x: 0.5, y: 0.5 }, tint: [1, 1, 1], table: null },
};

/** Samples of the piece a pixel of the photograph is the mean of, each way. */
const SAMPLES = 3;

/**
 * A photograph of a marked piece as a hand-held camera takes it: askew, from one side, in light that falls off, with noise;
 * some of the material round it.
 *
 * @param marks   0 bare to 255 marked
 * @param width   of the photograph, in pixels
 * @param seed    decides how it is held
 */
export function* photographed(
  marks: Gray,
  { bare, marked }: MaterialColours,
  width: number,
  seed: number,
  shot: Partial<Shot> = {},
): Work<Rgba> {
  const { turnDegrees, tilt, lamp, tint, table } = { ...STRAIGHT, ...shot };
  const chance = seeded(seed * 7919 + 13);
  for (let k = 0; k < 5; k++) chance();
  const [cos, sin] = [sinPi(turnDegrees / 180 + 0.5), sinPi(turnDegrees / 180)];
  // As large as it fits when it is turned.
  const ratio = marks.height / marks.width;
  const [wide, high] = [Math.abs(cos) + ratio * Math.abs(sin), Math.abs(sin) + ratio * Math.abs(cos)];
  const height = Math.round(width * (turnDegrees === 0 ? ratio : high / wide));
  const scale = turnDegrees === 0 ? 1 : 1 / wide;
  const photo = newRgba(width, height);
  const corner = (x: number, y: number): readonly [number, number] => {
    const at = [
      width * (x + 0.05 * (chance() - 0.5) + (tilt === 0 ? 0 : tilt * (chance() - 0.5))),
      width * ratio * (y + 0.05 * (chance() - 0.5) + (tilt === 0 ? 0 : tilt * (chance() - 0.5))),
    ];
    if (turnDegrees === 0) return [at[0], (at[1] * height) / (width * ratio)];
    const [dx, dy] = [scale * (at[0] - width / 2), scale * (at[1] - (width * ratio) / 2)];
    return [width / 2 + cos * dx - sin * dy, height / 2 + sin * dx + cos * dy];
  };
  const seen = [corner(0.08, 0.08), corner(0.92, 0.08), corner(0.92, 0.92), corner(0.08, 0.92)];
  const own = [
    [0, 0],
    [marks.width, 0],
    [marks.width, marks.height],
    [0, marks.height],
  ] as const;
  const back = homographyOf(seen, own)!;
  const channels = (colour: number) =>
    [colour >> 16, (colour >> 8) & 255, colour & 255].map((c) => LINEAR_OF_CODE[c]);
  const [from, to, beyond] = [channels(bare), channels(marked), channels(table?.colour ?? bare)];
  const margin = table ? table.margin * marks.width : Infinity;
  const [across, down] = [0.35 * (chance() - 0.5), 0.35 * (chance() - 0.5)];
  for (let y = 0; y < height; y++) {
    if (y % 32 === 0) yield y / height;
    for (let x = 0; x < width; x++) {
      let [sum, off] = [0, 0];
      for (let v = 0; v < SAMPLES; v++)
        for (let u = 0; u < SAMPLES; u++) {
          const [px, py] = [x + (u + 0.5) / SAMPLES, y + (v + 0.5) / SAMPLES];
          const w = back[6] * px + back[7] * py + back[8];
          const mx = Math.floor((back[0] * px + back[1] * py + back[2]) / w);
          const my = Math.floor((back[3] * px + back[4] * py + back[5]) / w);
          if (mx >= 0 && my >= 0 && mx < marks.width && my < marks.height)
            sum += marks.data[my * marks.width + mx];
          else if (mx < -margin || my < -margin || mx >= marks.width + margin || my >= marks.height + margin)
            off++;
        }
      const share = sum / (255 * SAMPLES * SAMPLES);
      const aside = off / (SAMPLES * SAMPLES);
      const [lx, ly] = [x / width - lamp.x, (y / height - lamp.y) * ratio];
      const light =
        (0.9 + across * (x / width - 0.5) + down * (y / height - 0.5)) *
        (1 - lamp.strength + lamp.strength / (1 + 3 * (lx * lx + ly * ly)));
      for (let c = 0; c < 3; c++) {
        const piece = from[c] + share * (to[c] - from[c]);
        const linear = light * tint[c] * (aside > 0 ? (1 - aside) * piece + aside * beyond[c] : piece);
        const code = CODE_OF_LINEAR[Math.round(Math.min(1, Math.max(0, linear)) * CODE_STEPS)];
        const noise = 3 * (chance() + chance() + chance() - 1.5);
        photo.data[4 * (y * width + x) + c] = Math.min(255, Math.max(0, Math.round(code + noise)));
      }
      photo.data[4 * (y * width + x) + 3] = 255;
    }
  }
  return photo;
}
