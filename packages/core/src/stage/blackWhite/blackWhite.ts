import { type Readings } from "../../inspect/check";
import { checkEvenAreas } from "../../inspect/evenAreas";
import { checkMarkedShare, markedShare } from "../../inspect/markedShare";
import { checkSingleDots } from "../../inspect/singleDots";
import { portion } from "../../maths/work";
import { newGray, type Gray } from "../../raster/types";
import { type Toned } from "../../route/art";
import { diffuse } from "../../screen/diffuse";
import { KERNELS } from "../../screen/kernels";
import { otsuThreshold, threshold } from "../../screen/threshold";
import { defineStage, type Stage } from "../stage";
import { plainTone } from "../tone/tone";
import { kernelTitle } from "./kernelTitles";
import { blackWhiteSettings, type BlackWhiteSettings } from "./settings";

/** Turns grey into marks. */
export const blackWhite = defineStage<BlackWhiteSettings>({
  id: "blackWhite",
  title: "Black & white",
  settings: blackWhiteSettings as Stage<BlackWhiteSettings>["settings"],
  *run(art, settings) {
    const toned = art.toned ?? plainTone(art);
    const { cover } = toned;
    const wanted = markTone(toned, settings.material === "burns-pale");
    if (settings.method === "line") {
      const t = settings.threshold === "auto" ? otsuThreshold(wanted, cover) : settings.threshold;
      return { ...art, dots: { bits: threshold(wanted, t), cover, threshold: t } };
    }
    const { strength, serpentine } = settings;
    const bits = yield* diffuse(wanted, cover, { kernel: KERNELS[settings.kernel], strength, serpentine });
    return { ...art, dots: { bits, cover } };
  },
  *inspect(art, { method }, limits) {
    const lineWork = method === "line";
    const dots = art.dots!;
    const finish = art.finish!;
    const bare = yield* portion(checkEvenAreas("bare", dots, finish, limits, lineWork), 0, 0.4);
    const solid = yield* portion(checkEvenAreas("solid", dots, finish, limits, lineWork), 0.4, 0.8);
    const single = yield* portion(checkSingleDots(dots, finish, limits), 0.8, 1);
    const markedPercent = Math.round(markedShare(dots) * 100) / 100;
    const readings: Readings =
      dots.threshold === undefined ? { markedPercent } : { markedPercent, threshold: dots.threshold };
    return {
      readings,
      checks: [bare, solid, single, checkMarkedShare(dots)],
    };
  },
  summary: (settings) => {
    const pale = settings.material === "burns-pale" ? ", burns pale" : "";
    if (settings.method === "line") {
      return `Line at ${settings.threshold === "auto" ? "auto" : settings.threshold}${pale}`;
    }
    const strength = settings.strength < 1 ? `, strength ${Math.round(settings.strength * 100)} %` : "";
    const turns = settings.serpentine ? ", serpentine" : "";
    return `${kernelTitle(settings.kernel)}${strength}${turns}${pale}`;
  },
});

/**
 * The grey that marks are made from: turned round for a material that burns pale, and faded towards
 * unmarked where the art itself fades out, so the surround stays bare either way.
 */
function markTone({ gray, cover }: Toned, burnsPale: boolean): Gray {
  if (!burnsPale && !cover) return gray;
  const out = newGray(gray.width, gray.height);
  const flip = burnsPale ? 255 : 0;
  for (let i = 0; i < out.data.length; i++) {
    const g = gray.data[i] ^ flip;
    out.data[i] = cover ? 255 - Math.round(((255 - g) * cover[i]) / 255) : g;
  }
  return out;
}
