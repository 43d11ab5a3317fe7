import { z } from "zod";
import { bitsOf, maskOf } from "../../line/strokes";
import { LEAST_RULING, MOST_RULING } from "../../maths/units";
import { workSlice, type Work } from "../../maths/work";
import { ENOUGH_TONES } from "../../inspect/tones";
import { figure } from "../../inspect/check";
import { cellSide, keptScreenMask, mostOfCell, superCell } from "../../screen/cell";
import { DOT_NAMES } from "../../screen/dotShapes";
import { gatherSmall } from "../../screen/gather";
import { markByMask, type Mask } from "../../screen/mask";
import { type Finish } from "../../result/finish";
import { RouteError } from "../../settings/errors";
import { dotsAlong, dotSettings, dotWords } from "../dotSettings";
import { defineMethod, definePlateDots, shared, type PlateDots, type Refusal } from "../method";

export const screenSettings = z.strictObject({
  method: z.literal("screen"),
  linesPerInch: z.number().min(LEAST_RULING).max(MOST_RULING).default(45),
  angle: z.number().min(-180).max(180).default(22.5),
  dot: z.enum(DOT_NAMES).default("round"),
  ...dotSettings,
  ...shared,
});
export type ScreenSettings = z.output<typeof screenSettings>;

/** How far up a mark that was cut can reach. */
const LEAD_IN = 64;
/** A cell of fewer dots along its side has no shape. */
const LEAST_SIDE = 2;

/** Lines that are too fine for the dots there are. */
function tooFine({ linesPerInch }: { linesPerInch: number }, dotsPerInch: number): Refusal | null {
  if (cellSide({ linesPerInch, dotsPerInch }) >= LEAST_SIDE) return null;
  const allowed = `${figure(dotsPerInch / LEAST_SIDE)} or less at ${figure(dotsPerInch)} dots per inch`;
  return { setting: "linesPerInch", value: linesPerInch, allowed };
}

const onInk = z.strictObject({
  linesPerInch: screenSettings.shape.linesPerInch,
  angle: screenSettings.shape.angle,
  dot: z.enum(DOT_NAMES).default("ellipse"),
});
export type ScreenOnInk = z.output<typeof onInk>;

export const screenPlate = definePlateDots<ScreenOnInk>({
  settings: onInk,
  isOf: (screen): screen is ScreenOnInk =>
    typeof screen === "object" && screen !== null && "linesPerInch" in screen,
  written: '{ "linesPerInch", "angle", "dot" }',
  label: "screen",
  usual: onInk.parse({}),
  refuses: tooFine,
  ruling: ({ linesPerInch, angle }) => ({ linesPerInch, angle }),
  *dotting(screen, _plate, dotsPerInch) {
    const mask = yield* keptScreenMask({ ...screen, dotsPerInch, smallestMark: 1, smallestGap: 1 });
    return { mask, side: 1 };
  },
  words: ({ linesPerInch, angle, dot }) => `${figure(linesPerInch)} lpi at ${figure(angle)}°, ${dot} dots`,
});

/** A screen begins with cells of a hundred dots, or at the usual lines where those have more. */
const FIRST_SIDE = 10;

/** Clustered dots at lines per inch, angle and shape. */
export const screen = defineMethod<ScreenSettings>({
  id: "screen",
  title: "Screen",
  tip: "Clustered dots in lines: films, coarse and grainy materials",
  settings: screenSettings,
  start: ({ dotsPerInch }) => ({
    linesPerInch: Math.min(screenPlate.usual.linesPerInch, Math.max(5, Math.floor(dotsPerInch / FIRST_SIDE))),
  }),
  admit(settings, { finish }) {
    const { dotsPerInch } = finish;
    const refused = tooFine(settings, dotsPerInch);
    if (refused) throw new RouteError("blackWhite", refused.setting, refused.value, refused.allowed);
    const most = mostOfCell({ ...settings, dotsPerInch });
    for (const name of ["smallestMark", "smallestGap"] as const)
      if (dotsAlong(settings[name], finish) > most)
        throw new RouteError(
          "blackWhite",
          name,
          settings[name],
          `${most} ${most === 1 ? "dot" : "dots"} or less in a cell of ${figure(cellSide({ ...settings, dotsPerInch }))} dots`,
        );
  },
  *marks({ gray, cover, finish, top }, settings) {
    const [mark, gap] = [dotsAlong(settings.smallestMark, finish), dotsAlong(settings.smallestGap, finish)];
    const alone = mark === 1 && gap === 1;
    const cells = yield* workSlice(maskFor(settings, finish), 0, 0.1);
    const bits = yield* workSlice(markByMask(gray, cells, top), 0.1, alone ? 1 : 0.2);
    if (alone) return { bits };
    const { width, height } = bits;
    const mask = yield* workSlice(maskOf(bits), 0.2, 0.25);
    yield* workSlice(gatherSmall(mask, width, height, cover, mark, gap), 0.25, 0.95);
    return { bits: yield* workSlice(bitsOf(mask, width, height), 0.95, 1) };
  },
  *fromAfar({ gray }) {
    return gray; // the share marked is linear in grey
  },
  leadIn: ({ smallestMark, smallestGap }) => (smallestMark === 1 && smallestGap === 1 ? 0 : LEAD_IN),
  tones: ({ linesPerInch, angle }, { dotsPerInch }) => {
    const side = cellSide({ linesPerInch, dotsPerInch });
    return {
      steps: side * side + 1,
      together: Math.min(256, superCell({ linesPerInch, angle, dotsPerInch }).dots + 1),
      side,
      enoughAt: dotsPerInch / Math.sqrt(ENOUGH_TONES),
    };
  },
  lineWork: false,
  samples: [{ label: "Screen", settings: {} }],
  sampleOf: ({ linesPerInch }) => ({ label: `Screen ${figure(linesPerInch)}`, at: 0 }),
  variants: [],
  summary: (settings) =>
    `${settings.dot[0].toUpperCase()}${settings.dot.slice(1)} dots, ${figure(settings.linesPerInch)} lines/in at ${figure(settings.angle)}°${dotWords(settings)}`,
  plate: screenPlate as PlateDots,
});

/** The mask for these settings at a resolution. */
function maskFor({ linesPerInch, angle, dot, ...settings }: ScreenSettings, finish: Finish): Work<Mask> {
  const { dotsPerInch } = finish;
  const smallestMark = dotsAlong(settings.smallestMark, finish);
  const smallestGap = dotsAlong(settings.smallestGap, finish);
  return keptScreenMask({ linesPerInch, angle, dot, dotsPerInch, smallestMark, smallestGap });
}
