import { figure } from "../../inspect/check";
import { workSlice, type Work } from "../../maths/work";
import { dotsPerMm, MM_PER_INCH } from "../../maths/units";
import { bytesOf, type Picture, type Tone } from "../../result/result";
import { RouteError } from "../../settings/errors";
import { monotoneCurve } from "../../tone/curve";
import { applyTable, toneTable } from "../../tone/levels";
import { reachOf, sharpen } from "../../tone/sharpen";
import { defineStage, type Keep } from "../stage";
import { histogramOf } from "./histogram";
import { onWhite, plainTone } from "./plainTone";
import { toneSettings, type ToneSettings } from "./settings";

/** Widest blur that sharpening computes, in dots; beyond it the picture would have to be done differently. */
const MOST_SIGMA = 60;

/**
 * Grey, then sharpened, then levels and curve: the curve has the last word, so what sharpening throws up
 * is still rolled off where the operator wants it.
 */
export const tone = defineStage({
  id: "tone",
  title: "Tone",
  settings: toneSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "tone",
  admit({ sharpen: { radiusMm, amount } }: ToneSettings, { finish }) {
    if (amount > 0 && radiusMm * dotsPerMm(finish) > MOST_SIGMA) {
      const most = figure((MOST_SIGMA * MM_PER_INCH) / finish.dotsPerInch, 2);
      throw new RouteError(
        "tone",
        "sharpen.radiusMm",
        radiusMm,
        `${most} or less at ${finish.dotsPerInch} dots per inch`,
      );
    }
  },
  *run({ picture }, settings, { keep }): Work<Tone> {
    const sharp = yield* workSlice(sharpened(picture, settings, keep), 0, 0.9);
    const gray = yield* workSlice(applyTable(sharp.gray, toneTable(settings)), 0.9, 1);
    return { ...sharp, gray };
  },
  leadIn: ({ sharpen: { radiusMm, amount } }, { finish }) =>
    amount > 0 ? reachOf((radiusMm * finish.dotsPerInch) / MM_PER_INCH) : 0,
  looksBack: true,
  *inspect(toned, { picture }) {
    const before = yield* workSlice(plainTone(picture), 0, 0.4);
    return {
      readings: {
        histogramBefore: yield* workSlice(histogramOf(before), 0.4, 0.7),
        histogramAfter: yield* workSlice(histogramOf(toned), 0.7, 1),
      },
      checks: [],
    };
  },
  readings: {
    histogramBefore: { label: "before", display: "filled" },
    histogramAfter: { label: "after Tone", display: "line" },
  },
  async *files(toned, _settings, doing) {
    const { writeGrayPng } = await import("../../format/png");
    const bytes = await doing(writeGrayPng(await doing(onWhite(toned)), toned.finish.dotsPerInch));
    yield { name: "tone.png", mediaType: "image/png", bytes };
  },
  summary: ({ black, white, curve, sharpen: { amount } }) => {
    const said: string[] = [];
    const middle = Math.round(100 * (monotoneCurve(curve, 3)[1] - 0.5));
    if (middle !== 0) said.push(`middle ${middle > 0 ? "+" : "−"}${Math.abs(middle)}`);
    if (monotoneCurve(curve, 3)[2] < 1)
      said.push(`lightest ${Math.round(100 * monotoneCurve(curve, 3)[2])} %`);
    if (black > 0 || white < 1)
      said.push(`levels ${Math.round(100 * black)} to ${Math.round(100 * white)} %`);
    if (amount > 0) said.push(`sharpened ${Math.round(100 * amount)} %`);
    return said.join(", ") || "as it is";
  },
});

/** Moving the curve leaves the sharpened picture as it is, and the curve is what is moved most: so that is kept. */
function* sharpened(
  picture: Picture,
  { sharpen: { radiusMm, amount } }: ToneSettings,
  keep: Keep,
): Work<Tone> {
  const sigma = (radiusMm * picture.finish.dotsPerInch) / MM_PER_INCH;
  const name = amount === 0 ? "plain" : `sharpened ${sigma} ${amount}`;
  const kept = keep.get<Tone>(name);
  if (kept) return kept;
  const plain = yield* workSlice(plainTone(picture), 0, 0.2);
  const gray = yield* workSlice(sharpen(plain.gray, plain.cover, sigma, amount), 0.2, 1);
  const toned = { ...plain, gray };
  keep.set(name, toned, bytesOf(toned));
  return toned;
}
