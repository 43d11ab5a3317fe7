import { encodeGroup4 } from "../../format/fax";
import { writeBitsPdf } from "../../format/pdf";
import { writeBitsPng } from "../../format/png";
import { writeBitsTiff } from "../../format/tiff";
import { checkEvenAreas } from "../../inspect/evenAreas";
import { checkMarkedShare, markedShare } from "../../inspect/markedShare";
import { checkSingleDots } from "../../inspect/singleDots";
import { portion, type Work } from "../../maths/work";
import { type Plates, type Result } from "../../result/result";
import { defineStage, type Stage } from "../stage";
import { FANS } from "./fans";
import { methodOf } from "./methods";
import { blackWhiteSettings, type BlackWhiteSettings } from "./settings";
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
  *run({ tone }, settings): Work<Plates> {
    const wanted = yield* portion(wantedOf(tone, settings), 0, 0.1);
    const { bits, threshold } = yield* portion(methodOf(settings).marks(wanted, settings), 0.1, 0.95);
    const { cover } = wanted;
    const inside = yield* portion(keptInside(bits, cover), 0.95, 1);
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
    const wanted = yield* portion(wantedOf(tone, settings), 0, 0.3);
    const gray = yield* portion(fromAfar(wanted, settings), 0.3, 1);
    const { finish, frame } = tone;
    return { kind: "tone", finish, frame, gray, cover: wanted.cover, ink: INKS[settings.material] };
  },
  leadIn: (settings) => methodOf(settings).leadIn(settings),
  *inspect(marked, _taken, settings, limits) {
    const { finish, threshold } = marked;
    const { lineWork } = methodOf(settings);
    const dots = { bits: marked.plates[0].bits, cover: marked.cover };
    const bare = yield* portion(checkEvenAreas("bare", dots, finish, limits, lineWork), 0, 0.4);
    const solid = yield* portion(checkEvenAreas("solid", dots, finish, limits, lineWork), 0.4, 0.8);
    const single = yield* portion(checkSingleDots(dots, finish, limits), 0.8, 0.95);
    const share = yield* portion(markedShare(dots), 0.95, 1);
    const markedPercent = Math.round(share * 100) / 100;
    return {
      readings: { markedPercent, ...(threshold === undefined ? {} : { threshold }) },
      checks: [bare, solid, single, checkMarkedShare(share, dots.cover !== null)],
    };
  },
  readings: {
    markedPercent: { label: "Marked area", unit: "%", decimals: 1 },
    threshold: { label: "Threshold" },
  },
  fans: FANS,
  delivers: "bitmap",
  async *files({ plates: [{ bits }], finish }, _settings, doing) {
    const { dotsPerInch, widthMm, heightMm } = finish;
    const png = await doing(writeBitsPng(bits, dotsPerInch));
    yield { name: "bitmap.png", mediaType: "image/png", bytes: png };
    const group4 = await doing(encodeGroup4(bits));
    const tiff = writeBitsTiff(bits, group4, dotsPerInch);
    yield { name: "bitmap.tif", mediaType: "image/tiff", bytes: tiff };
    const pdf = await writeBitsPdf(bits, group4, widthMm, heightMm);
    yield { name: "bitmap.pdf", mediaType: "application/pdf", bytes: pdf };
  },
  summary: (settings) =>
    methodOf(settings).summary(settings) + (settings.material === "burns-pale" ? ", burns pale" : ""),
});
