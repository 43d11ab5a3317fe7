import { type Rgba } from "@hardline/core/raster/types";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type SoftPicture } from "@hardline/demo";
import { bandAbout } from "./band";

export interface SoftRow {
  /** Mean error of the cover within twelve pixels of part-covered ones, in percent: as cleared, and by the plain way. */
  readonly band: number;
  readonly plain: number;
  readonly result: Rgba;
}

type Point = readonly [number, number];
/** Where an operator picks the wall: beside its four corners. */
const PICKS: readonly Point[] = [
  [0.02, 0.02],
  [0.98, 0.02],
  [0.02, 0.98],
  [0.98, 0.98],
];

/** Tolerances that are tried: the usual one, and less while more than this share of the whole subject goes. */
const TOLERANCES = [11, 7, 5, 3];
const MOST_LOST = 0.01;
/** Wall that is left is picked once more from this share of the picture on, and so often that there are so many picks. */
const [LEFT, MOST_PICKS] = [0.002, 8];

/** Takes the wall away by picks at its corners and its gaps, and compares the cover with the truth. */
export async function measureSoft({ picture, alpha }: SoftPicture): Promise<SoftRow> {
  const { width, height, data } = picture;
  const facts = { sha256: "", width, height, vector: false };
  const source = { facts, pixels: async () => picture };
  const cleared = async (picks: readonly Point[], tolerance: number): Promise<Rgba> => {
    const ops = [
      ...picks.map((at) => ({ op: "pick", at: [...at], tolerance })),
      ...picks.map((_, like) => ({ op: "gaps", like, tolerance })),
    ];
    const stages = [{ stage: "clear", ops, specksMm2: 0.05 }];
    const route = readRoute({ format: "hard-line-route", version: 1, name: "x", stages });
    return as((await new Runner().run(route, source))[1].result, "picture").colour;
  };
  // Whoever sees the subject go with its wall takes a smaller tolerance, and picks again where wall is left.
  let [tolerance, result] = [TOLERANCES[0], await cleared(PICKS, TOLERANCES[0])];
  for (let k = 1; k < TOLERANCES.length && lostOf(result, alpha) > MOST_LOST; k++)
    [tolerance, result] = [TOLERANCES[k], await cleared(PICKS, TOLERANCES[k])];
  for (let picks: readonly Point[] = PICKS; picks.length < MOST_PICKS;) {
    const left = [...alpha.keys()].filter((i) => alpha[i] === 0 && result.data[4 * i + 3] >= 128);
    if (left.length < LEFT * alpha.length) break;
    const at = left[left.length >> 1];
    picks = [...picks, [((at % width) + 0.5) / width, (Math.floor(at / width) + 0.5) / height]];
    const more = await cleared(picks, tolerance);
    if (lostOf(more, alpha) > MOST_LOST) break;
    result = more;
  }
  const band = bandAbout(alpha, width, height);
  // The plain way: what differs from the wall's corner by more than the tolerance is art, and everything else is not.
  const plain = new Uint8Array(alpha.length);
  for (let i = 0; i < plain.length; i++) {
    const near = PICKS.some(([u, v]) => {
      const o = 4 * (Math.floor(v * height) * width + Math.floor(u * width));
      return [0, 1, 2].every((k) => Math.abs(data[4 * i + k] - data[o + k]) <= 2.55 * tolerance);
    });
    plain[i] = near ? 0 : 255;
  }
  let [off, plainOff, count] = [0, 0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (!band[i]) continue;
    count++;
    off += Math.abs(result.data[4 * i + 3] - alpha[i]) / 255;
    plainOff += Math.abs(plain[i] - alpha[i]) / 255;
  }
  return { band: (100 * off) / count, plain: (100 * plainOff) / count, result };
}

/** The share of the whole subject that is gone. */
function lostOf({ data }: Rgba, alpha: Uint8Array): number {
  let [lost, solid] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i] < 255) continue;
    solid++;
    lost += +(data[4 * i + 3] < 128);
  }
  return lost / solid;
}
