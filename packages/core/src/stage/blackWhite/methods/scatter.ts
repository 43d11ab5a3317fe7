import { z } from "zod";
import { finish as finishWork, portion, type Work } from "../../../maths/work";
import { newGray } from "../../../raster/types";
import { countMarks } from "../../../raster/bits";
import { diffuse } from "../../../screen/diffuse";
import { KERNEL_NAMES, KERNELS, type KernelName } from "../../../screen/kernels";
import { applyTable } from "../../../tone/levels";
import { kernelTitle } from "../kernelTitles";
import { defineMethod, shared } from "../method";

export const scatterSettings = z.strictObject({
  method: z.literal("scatter"),
  kernel: z.enum(KERNEL_NAMES).default("floyd-steinberg"),
  strength: z.number().min(0).max(1).default(1),
  serpentine: z.boolean().default(false),
  ...shared,
});
export type ScatterSettings = z.output<typeof scatterSettings>;

/** Errors that come from further up than this have been spread too thin to show. */
const LEAD_IN = 48;
const COMPARED: readonly KernelName[] = ["floyd-steinberg", "jarvis-judice-ninke", "stucki", "atkinson"];
const STRENGTHS = [1, 0.92, 0.84, 0.76, 0.68];

/** Dots by error diffusion. */
export const scatter = defineMethod<ScatterSettings>({
  id: "scatter",
  title: "Scatter",
  tip: "Dots by error diffusion: photographs",
  settings: scatterSettings,
  *marks({ gray, cover }, { kernel, strength, serpentine }) {
    return { bits: yield* diffuse(gray, cover, { kernel: KERNELS[kernel], strength, serpentine }) };
  },
  *fromAfar({ gray }, settings) {
    // All of the error passed on, dots average to their tone; all but Atkinson's weights pass all of it on.
    const even = settings.strength === 1 && settings.kernel !== "atkinson";
    return even ? gray : yield* applyTable(gray, yield* portion(responseOf(settings), 0, 0.5));
  },
  leadIn: () => LEAD_IN,
  lineWork: false,
  samples: COMPARED.map((kernel) => ({ label: shortTitle(kernel), settings: { kernel } })),
  sampleOf: ({ kernel }) => {
    const at = COMPARED.indexOf(kernel);
    return { label: shortTitle(kernel), at: at < 0 ? COMPARED.length - 1 : at };
  },
  fans: [
    {
      id: "strength",
      title: "Strength",
      spread: (settings) => {
        const now = settings.strength;
        const values = STRENGTHS.includes(now) ? STRENGTHS : nearestReplaced(now);
        return values.map((strength) => ({
          label: `${Math.round(strength * 100)} %`,
          settings: { ...settings, strength },
        }));
      },
    },
  ],
  summary: ({ kernel, strength, serpentine }) =>
    kernelTitle(kernel) +
    (strength < 1 ? `, strength ${Math.round(strength * 100)} %` : "") +
    (serpentine ? ", serpentine" : ""),
});

function shortTitle(kernel: KernelName): string {
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
function* responseOf({ kernel, strength, serpentine }: ScatterSettings): Work<Uint8Array> {
  const name = `${kernel} ${strength}`;
  const known = responses.get(name);
  if (known) return known;
  const at: number[] = [];
  for (let g = 0; g <= 255; g += EVERY) {
    yield g / 255;
    const patch = newGray(PATCH, PATCH);
    patch.data.fill(g);
    const how = { kernel: KERNELS[kernel], strength, serpentine };
    const bits = finishWork(diffuse(patch, null, how)); // two thousand pixels
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
