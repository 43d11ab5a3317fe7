import { figure } from "../../inspect/check";
import { checkResolution, sourcePerInch } from "../../inspect/resolution";
import { resampleRgba } from "../../resample/resample";
import { defineStage } from "../stage";
import { coverOfPolygon, polygonOf, rectangleKnots, roundKnots } from "../../clear/outline";
import { cropped } from "../../raster/crop";
import { type Rgba } from "../../raster/types";
import { MM_PER_INCH } from "../../route/art";
import { cutDown, finishOf } from "./finish";
import { sizeSettings, type PieceShape } from "./settings";

/** Brings the artwork to the finish size at the machine's dots per inch. */
export const size = defineStage({
  id: "size",
  title: "Size",
  settings: sizeSettings,
  *run(art, settings) {
    const finish = finishOf(art.facts, settings);
    // A drawing made of shapes already comes at the finish size; "none" asks for the pixels as they are.
    const filter = settings.resample === "none" ? "box" : settings.resample;
    const { shape } = settings;
    if (shape.kind === "whole")
      return {
        ...art,
        finish,
        colour: yield* resampleRgba(art.colour, finish.widthPx, finish.heightPx, filter),
      };
    const { x, y, width, height } = cutDown(art.colour, shape);
    const part = cropped(art.colour, { x, y, width, height });
    const sized = yield* resampleRgba(part, finish.widthPx, finish.heightPx, filter);
    const [w, h] = [art.colour.width, art.colour.height];
    return {
      ...art,
      finish,
      frame: { x: x / w, y: y / h, width: width / w, height: height / h },
      colour: shaped(sized, shape, finish.dotsPerInch / MM_PER_INCH),
    };
  },

  *inspect(art) {
    const finish = art.finish!;
    return {
      readings: { sourcePerInch: Math.round(sourcePerInch(art.facts, finish) * 10) / 10 },
      checks: [checkResolution(art.facts, finish)],
    };
  },
  summary: ({ widthMm, heightMm, dotsPerInch, resample, shape }) => {
    const side =
      widthMm !== undefined
        ? `${figure(widthMm)} mm wide`
        : heightMm !== undefined
          ? `${figure(heightMm)} mm high`
          : "pixels as they are";
    const how = { lanczos3: "", bicubic: ", bicubic", box: ", area average", none: "" }[resample];
    return `${side}, ${figure(dotsPerInch)} dots/in${how}${shape.kind === "whole" ? "" : `, ${shape.kind} piece`}`;
  },
});

/** The picture with what lies outside the piece cleared. */
function shaped(picture: Rgba, shape: PieceShape, dotsPerMm: number): Rgba {
  if (shape.kind === "whole" || shape.kind === "rectangle") return picture;
  const { width, height } = picture;
  const corner = shape.kind === "rounded" ? shape.cornerMm * dotsPerMm : 0;
  const knots =
    shape.kind === "round"
      ? roundKnots(0, 0, width, height)
      : rectangleKnots(0, 0, width, height, corner, corner);
  const cover = coverOfPolygon(polygonOf(knots), width, height);
  const data = picture.data.slice();
  for (let i = 0, o = 3; i < cover.length; i++, o += 4) data[o] = Math.round((data[o] * cover[i]) / 255);
  return { width, height, data };
}
