import { type Work } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { as, type Result } from "@hardline/core/result/result";
import { type View } from "@hardline/core/result/view";
import { viewRgba, viewTone } from "@hardline/core/view/view";
import { rangeAt } from "../rangeAt";
import { type ColourWish } from "../colourAt";
import { type StageWorker } from "../stageWorker";

/** What of a transfer the light table shows: the print on its garment, its white alone, or its colour alone. */
export type TransferShow = "print" | "white" | "colour";

/** White as it is printed: white on a grey that it stands out from. */
const BEHIND = 0x5a;

function* alone(result: Result, { part, width, height }: View, show: TransferShow): Work<Rgba> {
  const { colour, onGarment } = as(result, "picture");
  yield 0;
  if (show === "colour") return viewRgba(colour, part, width, height);
  const plane = { width: colour.width, height: colour.height, data: onGarment!.white };
  const seen = viewTone(plane, part, width, height);
  const data = new Uint8Array(4 * width * height).fill(255);
  for (let i = 0, o = 0; i < seen.data.length; i++, o += 4)
    data.fill(Math.round(BEHIND + ((255 - BEHIND) * seen.data[i]) / 255), o, o + 3);
  return { width, height, data };
}

export const transferWorker: StageWorker = {
  answers: {
    range: (taken, { x, y }: ColourWish) => rangeAt(as(taken.picture, "picture").colour, x, y),
  },
  draw: (result, view, pane) => {
    const show = (pane.view as { readonly show: TransferShow } | undefined)?.show ?? "print";
    return show === "print" || result.kind !== "picture" || !result.onGarment
      ? null
      : alone(result, view, show);
  },
};
