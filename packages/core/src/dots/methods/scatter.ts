import { z } from "zod";
import { runToEnd as finishWork, workSlice, type Work } from "../../maths/work";
import { newGray, type Bits, type Cover, type Gray } from "../../raster/types";
import { countMarks } from "../../raster/bits";
import { figure } from "../../inspect/check";
import { type Finish } from "../../result/finish";
import { inBlocks, outOfBlocks } from "../../screen/blocks";
import { BLUE_NOISE } from "../../screen/blueNoise";
import { diffuse } from "../../screen/diffuse";
import { KERNELS } from "../../screen/kernels";
import { markByMask } from "../../screen/mask";
import { applyTable } from "../../tone/levels";
import { dotsAlong, dotSettings, dotWords, type DotSettings } from "../dotSettings";
import { kernelTitle, SCATTER_NAMES, type ScatterName } from "../kernelTitles";
import { scattered as scatteredPlate } from "../../screen/dotting";
import { defineMethod, definePlateDots, shared, type PlateDots } from "../method";

export const scatterSettings = z.strictObject({
  method: z.literal("scatter"),
  kernel: z.enum(SCATTER_NAMES).default("floyd-steinberg"),
  strength: z.number().min(0).max(1).default(1),
  serpentine: z.boolean().default(false),
  keepEdges: z.number().min(0).max(4).default(0),
  ...dotSettings,
  ...shared,
});
export type ScatterSettings = z.output<typeof scatterSettings>;

export interface ScatterOnInk {
  readonly scatterMm: number;
}

/** Blue noise in squares of a size: a plate is run row by row, so its dots cannot depend on the rows before. */
export const scatterPlate = definePlateDots<ScatterOnInk>({
  settings: z.strictObject({ scatterMm: z.number().min(0.01).max(2) }),
  isOf: (screen): screen is ScatterOnInk =>
    typeof screen === "object" && screen !== null && "scatterMm" in screen,
  written: '{ "scatterMm": 0.01 to 2 }',
  label: "scatter",
  usual: { scatterMm: 0.1 },
  *dotting({ scatterMm }, plate, dotsPerInch) {
    return scatteredPlate(scatterMm, plate, dotsPerInch);
  },
  words: ({ scatterMm }, steps) => `scatter, dots of ${figure(scatterMm, 3)} mm, wedge ${steps} steps`,
});

/** Errors that come from further up than this have been spread too thin to show. */
const LEAD_IN = 48;
const COMPARED: readonly ScatterName[] = [
  "floyd-steinberg",
  "jarvis-judice-ninke",
  "stucki",
  "atkinson",
  "blue-noise",
];
const STRENGTHS = [1, 0.92, 0.84, 0.76, 0.68];

/** Dots without a ruling: by error diffusion, or by a threshold for each place that scatters evenly. */
export const scatter = defineMethod<ScatterSettings>({
  id: "scatter",
  title: "Scatter",
  tip: "Dots without a ruling: photographs",
  settings: scatterSettings,
  *marks({ gray, cover, finish, top }, settings) {
    const side = sideOf(settings, finish);
    if (side === 1) return { bits: yield* scattered(gray, cover, settings, top) };
    const blocks = yield* workSlice(inBlocks(gray, cover, side), 0, 0.4);
    const small = yield* workSlice(scattered(blocks.gray, blocks.cover, settings, 0), 0.4, 0.8);
    return { bits: yield* workSlice(outOfBlocks(small, side, gray.width, gray.height), 0.8, 1) };
  },
  *fromAfar({ gray }, settings) {
    // All of the error passed on, dots average to their tone; all but Atkinson's weights pass all of it on.
    const { kernel, strength } = settings;
    const even = kernel === "blue-noise" || (strength === 1 && kernel !== "atkinson");
    return even ? gray : yield* applyTable(gray, yield* workSlice(responseOf(settings), 0, 0.5));
  },
  // Squares of dots are counted from the top.
  leadIn: (settings, finish) =>
    sideOf(settings, finish) > 1 ? null : settings.kernel === "blue-noise" ? 0 : LEAD_IN,
  lineWork: false,
  samples: COMPARED.map((kernel) => ({ label: shortTitle(kernel), settings: { kernel } })),
  sampleOf: ({ kernel }) => {
    const at = COMPARED.indexOf(kernel);
    return { label: shortTitle(kernel), at: at < 0 ? COMPARED.length - 1 : at };
  },
  variants: [
    {
      id: "strength",
      title: "Strength",
      spread: (settings) => {
        if (settings.kernel === "blue-noise") return [];
        const now = settings.strength;
        const values = STRENGTHS.includes(now) ? STRENGTHS : nearestReplaced(now);
        return values.map((strength) => ({
          label: `${Math.round(strength * 100)} %`,
          settings: { ...settings, strength },
        }));
      },
    },
  ],
  summary: ({ kernel, strength, serpentine, keepEdges, ...dots }) =>
    kernelTitle(kernel) +
    (kernel === "blue-noise"
      ? ""
      : (strength < 1 ? `, strength ${Math.round(strength * 100)} %` : "") +
        (serpentine ? ", serpentine" : "") +
        (keepEdges > 0 ? `, edges kept ${keepEdges}` : "")) +
    dotWords(dots),
  plate: scatterPlate as PlateDots,
});

/** Marks and gaps of whole squares: the side that does for both. */
const sideOf = ({ smallestMark, smallestGap }: DotSettings, finish: Finish): number =>
  Math.max(dotsAlong(smallestMark, finish), dotsAlong(smallestGap, finish));

function scattered(
  gray: Gray,
  cover: Cover,
  { kernel, strength, serpentine, keepEdges }: ScatterSettings,
  top: number,
): Work<Bits> {
  if (kernel === "blue-noise") return markByMask(gray, BLUE_NOISE, top);
  return diffuse(gray, cover, { kernel: KERNELS[kernel], strength, serpentine, edges: keepEdges });
}

function shortTitle(kernel: ScatterName): string {
  return kernelTitle(kernel).split(",")[0];
}

function nearestReplaced(now: number): number[] {
  const nearest = STRENGTHS.reduce((a, b) => (Math.abs(b - now) < Math.abs(a - now) ? b : a));
  return STRENGTHS.map((s) => (s === nearest ? now : s)).sort((a, b) => b - a);
}

/** Side of an even patch whose dots are counted, and the steps of grey between patches. */
const PATCH = 48;
const EVERY = 5;
const responses = new Map<string, Uint8Array>();

/** The tone that even grey comes out at, for each of the 256 greys, where not all of the error is passed on. */
function* responseOf(settings: ScatterSettings): Work<Uint8Array> {
  const name = `${settings.kernel} ${settings.strength}`;
  const known = responses.get(name);
  if (known) return known;
  const at: number[] = [];
  for (let g = 0; g <= 255; g += EVERY) {
    yield g / 255;
    const patch = newGray(PATCH, PATCH);
    patch.data.fill(g);
    const bits = finishWork(scattered(patch, null, settings, 0)); // two thousand pixels
    at.push(255 * (1 - countMarks(bits) / (PATCH * PATCH)));
  }
  const response = Uint8Array.from({ length: 256 }, (_, g) => {
    const k = Math.min(at.length - 2, Math.floor(g / EVERY));
    return Math.round(at[k] + (at[k + 1] - at[k]) * (g / EVERY - k));
  });
  if (responses.size > 64) responses.clear();
  responses.set(name, response);
  return response;
}
