import { type Print } from "@hardline/core/cutLine/print";
import { type Work } from "@hardline/core/maths/work";
import { type Rect, type Rgba } from "@hardline/core/raster/types";
import { type Result } from "@hardline/core/result/result";
import { type View } from "@hardline/core/result/view";
import { type Pane } from "../engine/protocol";

/** What a stage brings to the worker besides its computation. Nothing here may reach for the page. */
export interface StageWorker {
  /** Draws its result in its own way; null where the common look will do. */
  readonly draw?: (result: Result, view: View, pane: Pane) => Work<Rgba> | null;
  /** Adds the stage's own signs to the picture of its result. @param part  in the result's dots */
  readonly paint?: (data: Uint8Array, result: Result, part: Rect, pane: Pane) => void;
  /** What is printed under its picture out to its paths, where that is no single colour; for a screen. */
  readonly underlay?: (result: Result, settings: object) => Work<Print | null> | null;
  /** What its panel and hands are told of the exact result. */
  readonly note?: (result: Result) => unknown;
  /** Answers to questions of its hands, about what the stage takes in. */
  readonly answers?: Readonly<Record<string, (taken: Record<string, Result>, wish: never) => unknown>>;
}
