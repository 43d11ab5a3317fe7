import { type Check, type Finish, type Gap, type Rect, type Route, type StageId } from "@hardline/core";

/** What Clear's result is looked at for: as it is, its cover alone, or faint tint made strong. */
export type Look = "art" | "cover" | "tint";

/** What of a stage's result is wanted for the screen. */
export interface Pane {
  readonly stage: StageId;
  /** Part of the finished picture, in dots; fractions allowed. */
  readonly part: Rect;
  /** Screen pixels to fill with it. */
  readonly width: number;
  readonly height: number;
  /** How dots are shown: the colour of a mark and of what is left, as 0xrrggbb. */
  readonly mark: number;
  readonly base: number;
  /** For Clear; the art when left out. */
  readonly look?: Look;
  /** For Clear: the gaps operation whose islands are outlined. */
  readonly gapsOf?: number;
}

export interface ShownPane extends Pane {
  readonly bitmap: ImageBitmap;
}

export interface Shown {
  readonly panes: readonly ShownPane[];
  /** Key of the last stage's result, so that what is on screen can be told apart. */
  readonly key: string;
  readonly finish: Finish | null;
  /** Made from fewer pixels, for a quick first look; the whole follows. */
  readonly draft?: boolean;
  /** For each gaps operation of Clear, the islands it found; null while Clear has not run. */
  readonly gaps: readonly { readonly op: number; readonly gaps: readonly Gap[] }[] | null;
}

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

/** A check, and the stage whose result it looked at. */
export interface StageCheck extends Check {
  readonly stage: StageId;
}

export interface Inspected {
  readonly key: string;
  readonly checks: readonly StageCheck[];
  readonly before: readonly number[] | null;
  readonly after: readonly number[] | null;
  readonly markedPercent: number | null;
  readonly threshold: number | null;
  readonly sourcePerInch: number | null;
  readonly keptPercent: number | null;
  /** Fingerprint of the dots, to be compared with the server's. */
  readonly dotsSha256: string | null;
  /** Small picture of the result, PNG in base64, for the board. */
  readonly thumbnail: string;
  readonly stages: readonly { readonly stage: StageId; readonly bitmap: ImageBitmap }[];
}

/** The reading under the pointer. */
export interface Reading {
  /** Percent of black. */
  readonly tone: number;
  readonly dot: "mark" | "bare" | null;
}

export interface StripRequest {
  readonly routes: readonly Route[];
  readonly pane: Pane;
}
