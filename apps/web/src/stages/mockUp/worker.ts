import { as, type Result } from "@hardline/core/result/result";
import { boxOfArt } from "@hardline/core/mockUp/layer";
import { type Rect } from "@hardline/core/raster/types";
import { type ColourWish } from "../colourAt";
import { rangeAt } from "../rangeAt";
import { type StageWorker } from "../stageWorker";

/** What the panel and the hands are told of a mock-up. */
export interface MockUpNote {
  /** The part of the piece that is put on, in mm. */
  readonly art: Rect;
}

export const mockUpWorker: StageWorker = {
  note: (result: Result): MockUpNote => ({ art: boxOfArt(as(result, "mockUp").art) }),
  answers: {
    /** At a place of the art, in shares of its sides. */
    range: ({ art }, { x, y }: ColourWish) => {
      const picture =
        art.kind === "picture"
          ? art.colour
          : art.kind === "plates"
            ? art.print?.art
            : art.kind === "paths"
              ? art.cut?.art
              : null;
      return picture ? rangeAt(picture, x * picture.width, y * picture.height) : null;
    },
  },
};
