import { type z } from "zod";
import { type Check, type Readings } from "../inspect/check";
import { type Limits } from "../inspect/limits";
import { type Work, type Doing } from "../maths/work";
import { type FurtherTurn } from "../turn/further";
import { type Turn } from "../turn/turn";
import { type Colourway } from "../recolour/colourway";
import { type RgbaRows } from "../resample/rows";
import { type Placement } from "../result/finish";
import { type Result, type ResultKind, type ResultOf } from "../result/result";
import { type ArtworkFacts, type ArtworkSource } from "../route/source";

/** What a stage finds when it looks at its own result. */
export interface Inspection {
  readonly readings: Readings;
  readonly checks: readonly Check[];
}

/**
 * What a stage takes, by names of its own: for each the kinds of result that will do. It is given the nearest
 * earlier stage of the route that gives one of them.
 */
export type Ports = Readonly<Record<string, readonly ResultKind[]>>;
export type Taken<P extends Ports> = { readonly [K in keyof P]: ResultOf<P[K][number]> };

/**
 * How a reading is shown. Histograms of one stage share a chart, and so do counts of run lengths. A response is a list of
 * shares in percent over even steps from white to black; regions are shares in percent, row by row of a square.
 */
export interface ReadingFace {
  readonly label: string;
  readonly unit?: string;
  readonly decimals?: number;
  /** A figure when left out; a histogram's counts are drawn filled, or as a line over it. */
  readonly display?: "figure" | "filled" | "line" | "response" | "regions" | "runs" | "plates" | "none";
}

/** A setting that can be spread out into a test strip: settings to compare, what is set now among them. */
export interface Variants<S extends object = object> {
  readonly id: string;
  readonly title: string;
  readonly spread: (
    now: S,
  ) => readonly { readonly label: string; readonly settings: S; readonly kept: boolean }[];
  /** What to say where there is nothing to spread. */
  readonly without?: string;
}

/** Room in which a stage keeps what it may need again on the same input, such as a half-done result. */
export interface Keep {
  readonly get: <T>(name: string) => T | undefined;
  readonly set: (name: string, value: unknown, bytes: number) => void;
}

/** What a stage is told besides what it takes. */
export interface Context {
  readonly facts: ArtworkFacts;
  /** Size and place of the route's finished piece. A draft's own are on what it takes. */
  readonly place: Placement;
  readonly keep: Keep;
}

/** A file as it is handed over. */
export interface DeliveredFile {
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

/** One step of a route: what may be set, what it takes, does and gives, what it says of the result. */
export interface Stage<
  Id extends string = string,
  S extends object = object,
  P extends Ports = Ports,
  R extends Result = Result,
> {
  readonly id: Id;
  readonly title: string;
  readonly settings: z.ZodType<S>;
  /** What settings are called where their own names would not be understood, by their paths. */
  readonly called?: Readonly<Record<string, string>>;
  /** It is on every route and nothing of it can be set. */
  readonly always?: true;
  readonly takes: (settings: S) => P;
  /** The port of what its paths lie over on a screen; the nearest earlier result that fills one when left out. */
  readonly shownOver?: (settings: S) => string | null;
  /** Size and place that its settings give the finished piece, known before anything is run. @throws RouteError */
  readonly place?: (settings: S, facts: ArtworkFacts) => Placement;
  /** How its settings have the artwork turned, before anything else is done with it. */
  readonly turn?: (settings: S) => Turn;
  /**
   * Its settings for an artwork that is turned a further time: whatever was placed on it stays on what it was placed on.
   * Left out by a stage that has nothing placed.
   */
  readonly turnedOn?: (settings: S, by: FurtherTurn) => S;
  /**
   * Bytes a dot of the finish that its result comes to, with what it keeps beside it; left out, as much as results of
   * its kind do.
   */
  readonly bytesADot?: (settings: S, place: Placement) => number;
  /** Refuses settings that cannot be met. @throws RouteError */
  readonly admit?: (settings: S, place: Placement) => void;
  /** A stage either brings its result in from outside, or makes it of what it takes. */
  readonly read?: (
    source: ArtworkSource,
    wanted: { readonly drawWidth?: number; readonly turn: Turn },
    doing: Doing,
  ) => Promise<R>;
  readonly run?: (taken: Taken<P>, settings: S, context: Context) => Work<R>;
  /**
   * The result from the artwork's rows as they arrive, for a stage that takes the artwork: the same bits as from the
   * whole of it.
   */
  readonly passThrough?: (rows: RgbaRows, settings: S, place: Placement) => Work<R>;
  /**
   * The result from a smaller or cut copy of what it takes, for a first look; `run` when left out. It may be of
   * another kind, when that looks the same on a screen.
   */
  readonly draft?: (taken: Taken<P>, settings: S, context: Context) => Work<Result>;
  /** It is made at once of what it takes, so that a first look takes that whole where it is at hand. */
  readonly atOnce?: true;
  /**
   * How many rows above those in view must be run as well, for their dots to come out as they nearly are; null, or
   * left out, when rows cannot be run by themselves.
   */
  readonly leadIn?: (settings: S, place: Placement) => number | null;
  /** Its checks compare the result with what it takes, which is then at hand; otherwise `taken` is empty. */
  readonly looksBack?: true;
  readonly inspect?: (
    result: R,
    taken: Taken<P>,
    settings: S,
    limits: Limits,
    context: Context,
  ) => Work<Inspection>;
  readonly readings?: Readonly<Record<string, ReadingFace>>;
  readonly variants?: readonly Variants<S>[];
  /** The limits of the route that its checks hold the result against. */
  readonly limits?: readonly (keyof Limits)[];
  /**
   * Writes the files that hand the result over.
   * @param job   what the order is called, for words on what is printed
   * @param ways  the route's colourways that are handed over too
   */
  readonly files?: (
    result: R,
    settings: S,
    doing: Doing,
    job: string,
    ways: readonly Colourway[],
  ) => AsyncIterable<DeliveredFile>;
  /** Its settings in a colourway, where its result is another one there: it is then made and handed over once more for each. */
  readonly inWay?: (settings: S, way: Colourway) => S;
  /** Fonts that must be ready before it is run (`letters/shelf.ts`). */
  readonly fonts?: (settings: S) => readonly string[];
  /** Photographs of things that must be ready before it is run (`mockUp/photos.ts`). */
  readonly photos?: (settings: S) => readonly string[];
  /** Its result is seen in colourways. */
  readonly inColourways?: true;
  /** Size of what it shows, where that is not the piece. */
  readonly canvas?: (settings: S) => Placement;
  /** What those files are, in a word or two. */
  readonly delivers?: string;
  /** What was decided, in a few words, for the docket and the job sheet. */
  readonly summary: (settings: S) => string;
}

/** A stage whose settings and ports are not known at compile time: what runner, hand over and interface work with. */
export interface AnyStage extends Omit<
  Stage,
  | "takes"
  | "shownOver"
  | "run"
  | "draft"
  | "inspect"
  | "files"
  | "fonts"
  | "inWay"
  | "photos"
  | "canvas"
  | "place"
  | "turn"
  | "turnedOn"
  | "admit"
  | "bytesADot"
  | "passThrough"
  | "leadIn"
  | "variants"
  | "summary"
> {
  readonly variants?: readonly Variants[];
  takes(settings: object): Ports;
  shownOver?(settings: object): string | null;
  place?(settings: object, facts: ArtworkFacts): Placement;
  turn?(settings: object): Turn;
  turnedOn?(settings: object, by: FurtherTurn): object;
  admit?(settings: object, place: Placement): void;
  bytesADot?(settings: object, place: Placement): number;
  run?(taken: object, settings: object, context: Context): Work<Result>;
  passThrough?(rows: RgbaRows, settings: object, place: Placement): Work<Result>;
  draft?(taken: object, settings: object, context: Context): Work<Result>;
  leadIn?(settings: object, place: Placement): number | null;
  inspect?(
    result: Result,
    taken: object,
    settings: object,
    limits: Limits,
    context: Context,
  ): Work<Inspection>;
  fonts?(settings: object): readonly string[];
  photos?(settings: object): readonly string[];
  canvas?(settings: object): Placement;
  files?(
    result: Result,
    settings: object,
    doing: Doing,
    job: string,
    ways: readonly Colourway[],
  ): AsyncIterable<DeliveredFile>;
  inWay?(settings: object, way: Colourway): object;
  summary(settings: object): string;
}

export const defineStage = <Id extends string, S extends object, P extends Ports, R extends Result>(
  stage: Stage<Id, S, P, R> & { readonly gives: R["kind"] },
): Stage<Id, S, P, R> & { readonly gives: R["kind"] } => stage;
