import { type Check, type Finish, type Rect, type Route, type StageId } from "@hardline/core";

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
}

export interface ShownPane extends Pane {
  readonly bitmap: ImageBitmap;
}

export interface Shown {
  readonly panes: readonly ShownPane[];
  /** Key of the last stage's result, so that what is on screen can be told apart. */
  readonly key: string;
  readonly finish: Finish | null;
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
