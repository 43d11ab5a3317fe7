import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { seeded } from "../maths/seeded";
import { type Work } from "../maths/work";
import { newRgba, type Gray, type Rgba } from "../raster/types";
import { homographyOf } from "../wedge/homography";

/** Colours of a material, 0xrrggbb. */
export interface MaterialColours {
  readonly bare: number;
  readonly marked: number;
}

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
): Work<Rgba> {
  const chance = seeded(seed * 7919 + 13);
  for (let k = 0; k < 5; k++) chance();
  const height = Math.round((width * marks.height) / marks.width);
  const photo = newRgba(width, height);
  const corner = (x: number, y: number): readonly [number, number] => [
    width * (x + 0.05 * (chance() - 0.5)),
    height * (y + 0.05 * (chance() - 0.5)),
  ];
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
  const [from, to] = [channels(bare), channels(marked)];
  const [across, down] = [0.35 * (chance() - 0.5), 0.35 * (chance() - 0.5)];
  for (let y = 0; y < height; y++) {
    if (y % 32 === 0) yield y / height;
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let v = 0; v < SAMPLES; v++)
        for (let u = 0; u < SAMPLES; u++) {
          const [px, py] = [x + (u + 0.5) / SAMPLES, y + (v + 0.5) / SAMPLES];
          const w = back[6] * px + back[7] * py + back[8];
          const mx = Math.floor((back[0] * px + back[1] * py + back[2]) / w);
          const my = Math.floor((back[3] * px + back[4] * py + back[5]) / w);
          if (mx >= 0 && my >= 0 && mx < marks.width && my < marks.height)
            sum += marks.data[my * marks.width + mx];
        }
      const share = sum / (255 * SAMPLES * SAMPLES);
      const light = 0.9 + across * (x / width - 0.5) + down * (y / height - 0.5);
      for (let c = 0; c < 3; c++) {
        const linear = light * (from[c] + share * (to[c] - from[c]));
        const code = CODE_OF_LINEAR[Math.round(Math.min(1, Math.max(0, linear)) * CODE_STEPS)];
        const noise = 3 * (chance() + chance() + chance() - 1.5);
        photo.data[4 * (y * width + x) + c] = Math.min(255, Math.max(0, Math.round(code + noise)));
      }
      photo.data[4 * (y * width + x) + 3] = 255;
    }
  }
  return photo;
}
