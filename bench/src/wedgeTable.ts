import { runToEnd } from "@hardline/core/maths/work";
import { seeded } from "@hardline/core/maths/seeded";
import { type Gray } from "@hardline/core/raster/types";
import { answered, ANSWERS_OF } from "@hardline/core/simulator/answer";
import { photographed, type MaterialColours, type Shot } from "@hardline/core/simulator/photograph";
import { burnedWedge, trueShares, WOOD } from "@hardline/core/testing/burnedWedge";
import { curveThrough } from "@hardline/core/tone/curve";
import { fitResponse } from "@hardline/core/wedge/fitResponse";
import { readWedge } from "@hardline/core/wedge/readPhoto";

/** A photograph that is to be read: of which material, and how it was taken. */
export interface WedgeShot {
  readonly name: string;
  readonly answer: string;
  readonly colours: MaterialColours;
  readonly burnsPale: boolean;
  readonly width: number;
  readonly seed: number;
  readonly shot: Partial<Shot>;
  /** It set no rule and is only measured. */
  readonly unseen: boolean;
}

/** Materials by how they look: name, bare, marked, and how much paler or darker full marks are, of the light. */
const LOOKS: readonly (readonly [name: string, bare: number, marked: number])[] = [
  ["pale wood", 0xdcbf94, 0x5a3a20],
  ["walnut, hardly darker", 0x6a4a32, 0x543a26],
  ["slate", 0x3f444a, 0xb9bcbc],
  ["cork, faint", 0xc19a6b, 0xa5835a],
  ["anodised, faint", 0x39424d, 0x56606b],
  ["leather", 0xb98456, 0x4b2b17],
  ["grey acrylic", 0x9fb1bb, 0xdfe6ea],
  ["card", 0xe9e4d8, 0x8c7454],
  ["cherry", 0x9a5b3c, 0x6e3f28],
  ["bamboo", 0xd9b878, 0x7d5a2c],
];
const ANSWERS = Object.keys(ANSWERS_OF);
const TURNS = [0, 7, -14, 24, -33, 45, -45, 90, 180, 12];
const TABLES = [null, 0xf2efe9, 0x1d1b1a, 0x7c6a58, 0x2b3a30];
const TINTS = [
  [1, 1, 1],
  [1, 0.82, 0.58],
  [0.8, 0.9, 1],
  [1, 0.7, 0.4],
] as const;

/** Sixty photographs: low contrast, strong and coloured light, turned to 45 degrees and more, askew, on tables of many tones. */
export const WEDGE_SHOTS: readonly WedgeShot[] = Array.from({ length: 60 }, (_, k): WedgeShot => {
  const chance = seeded((k + 1) * 7919 + 13);
  for (let i = 0; i < 5; i++) chance();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)];
  const [name, bare, marked] = LOOKS[k % LOOKS.length];
  const colour = pick(TABLES);
  const turnDegrees = pick(TURNS);
  const strength = pick([0, 0.25, 0.5, 0.7]);
  const tilt = pick([0, 0.06, 0.14]);
  return {
    name: `${name}, ${turnDegrees}°`,
    answer: pick(ANSWERS),
    colours: { bare, marked },
    burnsPale: marked > bare,
    width: pick([900, 1300, 1700]),
    seed: k + 1,
    shot: {
      ...{ turnDegrees, tilt, tint: pick(TINTS) },
      lamp: { strength, x: chance(), y: chance() },
      table: colour === null ? null : { colour, margin: pick([0.03, 0.08]) },
    },
    unseen: k % 3 === 2,
  };
});

const DPI = WOOD.dotsPerInch;

export interface Outcome {
  readonly shot: WedgeShot;
  /** Why it was not taken; null when it was. */
  readonly refused: string | null;
  /** How far the straightened curve lies from what is on the material, at its worst, in percent; the fit's own error. */
  readonly off: number;
  readonly fit: number;
}

/** Every photograph read, and held against what is really on the material. */
export async function* measured(shots: readonly WedgeShot[] = WEDGE_SHOTS): AsyncIterable<Outcome> {
  const bits = await burnedWedge();
  const known = new Map<string, { marks: Gray; truth: Map<number, number> }>();
  for (const shot of shots) {
    if (!known.has(shot.answer)) {
      const marks = runToEnd(answered(bits, DPI, ANSWERS_OF[shot.answer]));
      known.set(shot.answer, { marks, truth: trueShares(marks) });
    }
    const { marks, truth } = known.get(shot.answer)!;
    const photo = runToEnd(photographed(marks, shot.colours, shot.width, shot.seed, shot.shot));
    try {
      const { steps } = readWedge(photo, DPI, shot.burnsPale);
      const { points, errorPercent } = fitResponse(steps);
      const curve = curveThrough(points);
      const off = Math.max(...[...truth].map(([made, share]) => Math.abs(curve(made / 100) - share)));
      yield { shot, refused: null, off: 100 * off, fit: errorPercent };
    } catch (error) {
      yield { shot, refused: (error as Error).message, off: 0, fit: 0 };
    }
  }
}
