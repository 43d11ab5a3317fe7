import { figure } from "../../inspect/check";
import { checkResolution, sourcePerInch } from "../../inspect/resolution";
import { resampleRgba } from "../../resample/resample";
import { defineStage } from "../stage";
import { finishOf } from "./finish";
import { sizeSettings } from "./settings";

/** Brings the artwork to the finish size at the machine's dots per inch. */
export const size = defineStage({
  id: "size",
  title: "Size",
  settings: sizeSettings,
  *run(art, settings) {
    const finish = finishOf(art.facts, settings);
    // A drawing made of shapes already comes at the finish size; "none" asks for the pixels as they are.
    const filter = settings.resample === "none" ? "box" : settings.resample;
    const colour = yield* resampleRgba(art.colour, finish.widthPx, finish.heightPx, filter);
    return { ...art, finish, colour };
  },

  *inspect(art) {
    const finish = art.finish!;
    return {
      readings: { sourcePerInch: Math.round(sourcePerInch(art.facts, finish) * 10) / 10 },
      checks: [checkResolution(art.facts, finish)],
    };
  },
  summary: ({ widthMm, heightMm, dotsPerInch, resample }) => {
    const side =
      widthMm !== undefined
        ? `${figure(widthMm)} mm wide`
        : heightMm !== undefined
          ? `${figure(heightMm)} mm high`
          : "pixels as they are";
    const how = { lanczos3: "", bicubic: ", bicubic", box: ", area average", none: "" }[resample];
    return `${side}, ${figure(dotsPerInch)} dots/in${how}`;
  },
});
