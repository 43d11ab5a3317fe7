import { ColourTable } from "@hardline/core/clear/alike";
import { type Gap } from "@hardline/core/clear/gaps";
import { paperAt } from "@hardline/core/clear/lift";
import { previewPick } from "@hardline/core/clear/preview";
import { type Rect } from "@hardline/core/raster/types";
import { as, type Picture, type Result } from "@hardline/core/result/result";
import { transfer } from "comlink";
import { type StageWorker } from "../stageWorker";
import { paintCleared, paintPick } from "./paintCleared";

/** How Clear's result is looked at: as it is, its cover alone, or faint tint made strong. */
export type Showing = "art" | "cover" | "tint";

/** What the light table is told of the open stage. */
export interface ClearView {
  readonly showing: Showing;
  /** The gaps operation whose islands are outlined. */
  readonly gapsOf?: number;
}

/** For each gaps operation, the islands it found. */
export type ClearNote = readonly { readonly op: number; readonly gaps: readonly Gap[] }[];

/** What a click would take, drawn for the screen. */
export interface PickWish {
  /** The dot under the pointer. */
  readonly x: number;
  readonly y: number;
  readonly tolerance: number;
  readonly joined: boolean;
  readonly part: Rect;
  readonly width: number;
  readonly height: number;
}

export interface PickShown {
  readonly bitmap: ImageBitmap;
  /** Share of the picture, 0..1. */
  readonly share: number;
}

export interface PaperWish {
  readonly x: number;
  readonly y: number;
  readonly light: "auto" | "even" | "uneven";
}

/** Colours measured for the pick under the pointer; made when first pointed. */
let colours: ColourTable | null = null;

const pictureOf = (taken: Record<string, Result>): Picture => as(taken.picture, "picture");

async function pickAt(taken: Record<string, Result>, wish: PickWish): Promise<PickShown | null> {
  const picture = pictureOf(taken).colour;
  const { x, y, tolerance, joined, part, width, height } = wish;
  if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) return null;
  colours ??= new ColourTable();
  const { mask, share } = previewPick(picture, x, y, tolerance, joined, part, width, height, colours);
  const bitmap = await createImageBitmap(new ImageData(paintPick(mask, width, height), width, height));
  return transfer({ bitmap, share }, [bitmap]);
}

export const clearWorker: StageWorker = {
  paint: (data, result, part, { width, height, view }) => {
    const { showing, gapsOf } = (view as ClearView | undefined) ?? { showing: "art" };
    paintCleared(data, as(result, "picture"), part, width, height, showing, gapsOf);
  },
  note: (result): ClearNote | undefined =>
    as(result, "picture").cleared?.gaps.map(({ op, gaps }) => ({ op, gaps })),
  answers: {
    pick: pickAt,
    /** The paper's colour about a dot, as #rrggbb in the light that a lift makes of it. */
    paper: (taken, { x, y, light }: PaperWish) => paperAt(pictureOf(taken).colour, x, y, light),
  },
};
