import { z } from "zod";
import { bitsOf, cleanStrokes, maskOf, moveEdges } from "../../line/strokes";
import { workSlice } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { type Finish } from "../../result/finish";
import { localThreshold } from "../../screen/localThreshold";
import { otsuThreshold, threshold } from "../../screen/threshold";
import { SOLID } from "../../screen/dotting";
import { defineMethod, definePlateDots, shared, type Marks, type PlateDots, type Wanted } from "../method";
import { type Work } from "../../maths/work";

const isThreshold = (value: unknown): boolean =>
  value === "auto" || (Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 255);

export const lineSettings = z.strictObject({
  method: z.literal("line"),
  threshold: z
    .custom<"auto" | number>(isThreshold, { error: '"auto" or a whole number 1 to 255' })
    .default(128),
  local: z
    .strictObject({
      windowMm: z.number().min(0.1).max(200).default(6),
      k: z.number().min(0.01).max(1).default(0.2),
    })
    .optional(),
  cleanMm: z.number().min(0).max(20).default(0),
  edgeMm: z.number().min(-5).max(5).default(0),
  ...shared,
});
export type LineSettings = z.output<typeof lineSettings>;

/** A plate without tones. */
export const linePlate = definePlateDots<"solid">({
  settings: z.literal("solid"),
  isOf: (screen): screen is "solid" => screen === "solid",
  written: '"solid"',
  label: "none",
  tip: "Printed whole from half on",
  usual: "solid",
  *dotting() {
    return SOLID;
  },
  words: () => "solid",
});

/** One threshold, or one that follows the light; then strokes are cleaned, and made wider or thinner. */
export const line = defineMethod<LineSettings>({
  id: "line",
  title: "Line",
  tip: "One threshold, or one that follows the light: drawings, lettering, flat art",
  settings: lineSettings,
  *marks(wanted, settings) {
    const touched = settings.cleanMm > 0 || settings.edgeMm !== 0;
    const marks = yield* workSlice(parted(wanted, settings), 0, touched ? 0.3 : 1);
    if (!touched) return marks;
    const perMm = dotsPerMm(wanted.finish);
    const { width, height } = wanted.gray;
    const mask = yield* workSlice(maskOf(marks.bits), 0.3, 0.35);
    if (settings.cleanMm > 0)
      yield* workSlice(cleanStrokes(mask, width, height, settings.cleanMm * perMm), 0.35, 0.6);
    if (settings.edgeMm !== 0)
      yield* workSlice(moveEdges(mask, width, height, settings.edgeMm * perMm), 0.6, 0.95);
    return { ...marks, bits: yield* workSlice(bitsOf(mask, width, height), 0.95, 1) };
  },
  leadIn({ threshold, local, cleanMm, edgeMm }, finish) {
    if (cleanMm > 0 || edgeMm !== 0) return null;
    if (local) return windowOf(local.windowMm, finish) >> 1;
    return threshold === "auto" ? null : 0;
  },
  lineWork: true,
  samples: [{ label: "Line", settings: { threshold: "auto" } }],
  sampleOf: () => ({ label: "Line", at: 0 }),
  variants: [],
  summary: ({ threshold, local, cleanMm, edgeMm }) =>
    (local ? `Line, following the light over ${local.windowMm} mm` : `Line at ${threshold}`) +
    (cleanMm > 0 ? `, cleaned to ${cleanMm} mm` : "") +
    (edgeMm !== 0 ? `, edges ${edgeMm > 0 ? "out" : "in"} ${Math.abs(edgeMm)} mm` : ""),
  plate: linePlate as PlateDots,
});

function* parted({ gray, cover, finish }: Wanted, { threshold: given, local }: LineSettings): Work<Marks> {
  if (local) {
    const window = windowOf(local.windowMm, finish);
    return { bits: yield* localThreshold(gray, cover, { window, k: local.k }) };
  }
  const found = given === "auto" ? yield* workSlice(otsuThreshold(gray, cover), 0, 0.5) : given;
  return { bits: yield* workSlice(threshold(gray, found), 0.5, 1), threshold: found };
}

/** The odd number of dots that comes nearest. */
const windowOf = (windowMm: number, finish: Finish): number =>
  2 * Math.max(1, Math.round((windowMm * dotsPerMm(finish) - 1) / 2)) + 1;
