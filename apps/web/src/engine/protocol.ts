import { type SetText } from "@hardline/core/edit/operation";
import { type Check, type Readings } from "@hardline/core/inspect/check";
import { type CropReadings } from "@hardline/core/inspect/cropReadings";
import { type Appearance } from "@hardline/core/appearance/onMaterial";
import { type PathSet } from "@hardline/core/path/pathSet";
import { type Rect } from "@hardline/core/raster/types";
import { type Colourway } from "@hardline/core/recolour/colourway";
import { type Finish } from "@hardline/core/result/finish";
import { type Result } from "@hardline/core/result/result";
import { type StageId } from "@hardline/core/stage/stages";

/** What of a stage's result is wanted for the screen. */
export interface Pane {
  readonly stage: StageId;
  /** Part of the finished picture, in dots; fractions allowed. */
  readonly part: Rect;
  /** Screen pixels to fill with it. */
  readonly width: number;
  readonly height: number;
  /** Colour under the art, 0xrrggbb. */
  readonly base: number;
  /** How the stage's own drawing is to show it: known to that stage alone. */
  readonly view?: unknown;
  /** The colourway that it is seen in, by stages that are seen in any. */
  readonly way?: Colourway;
  /** Names of plates and sets of paths that are not to be seen. */
  readonly hidden?: readonly string[];
  /** The material that marks are to be seen on; left out, they are seen bare. */
  readonly appearance?: Appearance;
  /** Of the route that lies beside the one on the bench; `part` is the bench's own all the same. */
  readonly beside?: boolean;
}

/** A part of a result that can be shown or hidden. */
export interface Layer {
  readonly name: string;
  readonly colour: number;
}

export interface ShownPane extends Pane {
  readonly bitmap: ImageBitmap;
  /** Plates, or sets of paths, where there are several or any. */
  readonly layers: readonly Layer[];
  /** Names what paths lie over it; the paths themselves came with the first picture of that name. */
  readonly pathsKey: string | null;
}

/** Paths over a picture, and what is printed under it out to them, where that is another picture. */
export interface ShownPaths {
  readonly key: string;
  readonly sets: readonly PathSet[];
  /** Words that were set on them. */
  readonly texts: readonly SetText[];
  readonly underlay: Underlay | null;
}

/** A picture and where it lies on the piece, in mm. */
export interface Underlay extends Rect {
  readonly bitmap: ImageBitmap;
}

export interface Shown {
  readonly panes: readonly ShownPane[];
  /** Key of the last stage's result, so that what is on screen can be told apart. */
  readonly key: string;
  readonly finish: Finish;
  /** Made from fewer pixels, for a quick first look; the exact follows. */
  readonly draft: boolean;
  /** Paths that are not yet known on this side, by key. */
  readonly paths: readonly ShownPaths[];
  /** What stages say of their results to their own panels and hands. */
  readonly notes: Partial<Record<StageId, unknown>>;
}

/** A question to a stage's own part of the worker, such as what a click would take. */
export interface Question {
  readonly stage: StageId;
  readonly name: string;
  readonly wish: unknown;
}

/** A check, and the stage whose result it looked at. */
export interface StageCheck extends Check {
  readonly stage: StageId;
}

/** What was found of one stage's result, with a small picture of it. */
export interface InspectedStage {
  readonly stage: StageId;
  readonly readings: Readings;
  readonly checks: readonly StageCheck[];
  readonly bitmap: ImageBitmap;
}

export interface Inspected {
  readonly key: string;
  readonly stages: readonly InspectedStage[];
  readonly checks: readonly StageCheck[];
  /** Of what is sent as it is, to be compared with the server's. */
  readonly fingerprint: string | null;
  /** Small picture of the result, PNG in base64, for the board. */
  readonly thumbnail: string | null;
}

/** The part of an inspection that one worker does. */
export type InspectedPart = Omit<Inspected, "checks">;

/** A result in shared memory, on its way to another worker. */
export interface Handed {
  readonly key: string;
  readonly result: Result;
}

/** One variant of a strip. */
export interface Stripe {
  /** Null where the variant cannot be made; `fault` says why. */
  readonly bitmap: ImageBitmap | null;
  /** Of dots only. */
  readonly readings: CropReadings | null;
  readonly fault: string | null;
}

/** What the loupe shows. */
export interface Peeked {
  readonly bitmap: ImageBitmap;
  /** Percent of its square that is marked; null where there are no plates. */
  readonly markedPercent: number | null;
}
