import { coverOf, greyOf } from "../../colour/grey";
import { figure } from "../../inspect/check";
import { portion, type Work } from "../../maths/work";
import { MM_PER_INCH, type Art, type Toned } from "../../route/art";
import { RouteError } from "../../route/errors";
import { applyTable, toneTable } from "../../tone/levels";
import { sharpen } from "../../tone/sharpen";
import { monotoneCurve } from "../../tone/curve";
import { defineStage } from "../stage";
import { histogramOf } from "./histogram";
import { toneSettings, type ToneSettings } from "./settings";

/** Widest blur that sharpening computes, in dots; beyond it the picture would have to be done differently. */
const MOST_SIGMA = 60;

/**
 * Grey, then sharpened, then levels and curve: the curve has the last word, so what sharpening throws up
 * is still rolled off where the operator wants it.
 */
export const tone = defineStage<ToneSettings>({
  id: "tone",
  title: "Tone",
  settings: toneSettings,
  admit({ sharpen: { radiusMm, amount } }, { finish }) {
    const sigma = (radiusMm * (finish?.dotsPerInch ?? 254)) / MM_PER_INCH;
    if (amount > 0 && sigma > MOST_SIGMA) {
      const most = figure((MOST_SIGMA * MM_PER_INCH) / finish!.dotsPerInch, 2);
      throw new RouteError(
        "tone",
        "sharpen.radiusMm",
        radiusMm,
        `${most} or less at ${finish!.dotsPerInch} dots per inch`,
      );
    }
  },
  *run(art, settings) {
    const sharp = yield* portion(sharpened(art, settings), 0, 0.9);
    const gray = applyTable(sharp.gray, toneTable(settings));
    return { ...art, toned: { gray, cover: sharp.cover } };
  },

  *inspect(art) {
    return {
      readings: { histogramBefore: histogramOf(plainTone(art)), histogramAfter: histogramOf(art.toned!) },
      checks: [],
    };
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

/** Grey and cover of the colour art, before anything is set. */
export const plainTone = ({ colour }: Art): Toned => ({ gray: greyOf(colour), cover: coverOf(colour) });

/*
 * Moving the curve leaves the sharpened picture as it is, and the curve is what is moved most; so the last
 * sharpened picture is remembered by the very picture it was made from.
 */
const remembered = new WeakMap<object, { radius: number; amount: number; toned: Toned }>();

function* sharpened({ colour, finish }: Art, { sharpen: { radiusMm, amount } }: ToneSettings): Work<Toned> {
  const radius = (radiusMm * (finish?.dotsPerInch ?? 254)) / MM_PER_INCH;
  const last = remembered.get(colour);
  if (last && last.amount === amount && (amount === 0 || last.radius === radius)) return last.toned;
  const cover = coverOf(colour);
  const gray = yield* sharpen(greyOf(colour), cover, radius, amount);
  const toned = { gray, cover };
  remembered.set(colour, { radius, amount, toned });
  return toned;
}
