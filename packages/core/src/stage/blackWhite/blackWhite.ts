import { figure } from "../../inspect/check";
import { workSlice, type Work } from "../../maths/work";
import { type Finish } from "../../result/finish";
import { type Plates, type Result } from "../../result/result";
import { MOST_DOTS } from "../size/finish";
import { RouteError } from "../../settings/errors";
import { defineStage, type Stage } from "../stage";
import { inspectBy } from "../checks";
import { BLACK_WHITE_CHECKS } from "./checks";
import { VARIANTS } from "./variants";
import { methodOf } from "../../dots/methods";
import { blackWhiteSettings, type BlackWhiteSettings } from "./settings";
import { outOfBlocks } from "../../screen/blocks";
import { keptInside, wantedOf } from "./wanted";

/** What a mark looks like on a material that burns dark, and on one that burns pale. */
const INKS = { "burns-dark": 0x15181d, "burns-pale": 0xe9e7e1 };

/** Turns grey into marks. */
export const blackWhite = defineStage({
  id: "blackWhite",
  title: "Black & white",
  settings: blackWhiteSettings as Stage<string, BlackWhiteSettings>["settings"],
  takes: () => ({ tone: ["tone", "picture"] }) as const,
  gives: "plates",
  admit(settings: BlackWhiteSettings, place) {
    methodOf(settings).admit?.(settings, place);
    if (settings.resistFilm) timesFor(settings.resistFilm.printerDotsPerInch, place.finish);
  },
  *run({ tone }, settings, { place }): Work<Plates> {
    const wanted = yield* workSlice(wantedOf(tone, settings, place), 0, 0.1);
    const { bits, threshold } = yield* workSlice(methodOf(settings).marks(wanted, settings), 0.1, 0.95);
    const { cover } = wanted;
    const inside = yield* workSlice(keptInside(bits, cover), 0.95, 1);
    const plates = [{ name: "bitmap", ink: INKS[settings.material], bits: inside }];
    const { finish, frame } = tone;
    return {
      kind: "plates",
      finish,
      frame,
      plates,
      cover,
      ...(threshold === undefined ? {} : { threshold }),
    };
  },
  *draft({ tone }, settings, context): Work<Result> {
    const { fromAfar } = methodOf(settings);
    // Reduced, dots are seen as the tone that they average to; whole rows are run as they are.
    const reduced = tone.finish.dotsPerInch < context.place.finish.dotsPerInch;
    if (!fromAfar || !reduced) return yield* blackWhite.run!({ tone }, settings, context);
    const wanted = yield* workSlice(wantedOf(tone, settings, context.place), 0, 0.3);
    const gray = yield* workSlice(fromAfar(wanted, settings), 0.3, 1);
    const { finish, frame } = tone;
    return { kind: "tone", finish, frame, gray, cover: wanted.cover, ink: INKS[settings.material] };
  },
  leadIn: (settings, { finish }) => methodOf(settings).leadIn(settings, finish),
  looksBack: true,
  *inspect(marked, { tone }, settings, limits) {
    const dots = { bits: marked.plates[0].bits, cover: marked.cover };
    const { finish, threshold } = marked;
    const about = { dots, finish, threshold, tone, settings, limits, method: methodOf(settings) };
    return yield* inspectBy(BLACK_WHITE_CHECKS, about);
  },
  readings: {
    markedPercent: { label: "Marked area", unit: "%", decimals: 1 },
    threshold: { label: "Threshold" },
    thinnestMm: { label: "Thinnest stroke", unit: "mm", decimals: 2 },
    response: { label: "Tone made", display: "response" },
    regions: { label: "Marked by region", unit: "%", display: "regions" },
    runsMarked: { label: "marks", unit: "dots", display: "runs" },
    runsBare: { label: "gaps", unit: "dots", display: "runs" },
  },
  variants: VARIANTS,
  delivers: "bitmap",
  async *files({ plates: [{ bits }], finish }, { resistFilm }, doing) {
    const { bitmapFiles } = await import("./files");
    yield* bitmapFiles("bitmap", bits, finish, doing);
    if (!resistFilm) return;
    const { printerDotsPerInch: dotsPerInch } = resistFilm;
    const times = timesFor(dotsPerInch, finish);
    const film = await doing(outOfBlocks(bits, times, bits.width * times, bits.height * times));
    yield* bitmapFiles("film", film, { ...finish, dotsPerInch }, doing);
  },
  limits: ["areaMm2", "dotMm", "gapMm", "strokeMm"],
  summary: (settings) =>
    methodOf(settings).summary(settings) +
    (settings.material === "burns-pale" ? ", burns pale" : "") +
    (settings.resistFilm ? `, film at ${figure(settings.resistFilm.printerDotsPerInch)}` : ""),
});

/** How many of the film printer's dots make one dot along a side. @throws RouteError when they come out uneven */
function timesFor(printer: number, { dotsPerInch, widthPx, heightPx }: Finish): number {
  const times = Math.round(printer / dotsPerInch);
  const refuse = (allowed: string): never => {
    throw new RouteError("blackWhite", "resistFilm.printerDotsPerInch", printer, allowed);
  };
  if (times < 1 || Math.abs(times * dotsPerInch - printer) > 0.001 * printer) {
    const near = [times, times + 1].filter((t) => t >= 1).map((t) => figure(t * dotsPerInch, 2));
    refuse(
      `a whole multiple of the finish's ${figure(dotsPerInch, 2)} dots per inch, such as ${near.join(" or ")}`,
    );
  }
  if (widthPx * heightPx * times * times > MOST_DOTS)
    refuse(
      `a film of ${MOST_DOTS / 1e6} million dots or less; this would be ${widthPx * times} x ${heightPx * times}`,
    );
  return times;
}
