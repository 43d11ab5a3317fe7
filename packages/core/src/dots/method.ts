import { z } from "zod";
import { LEAST_DPI, MOST_DPI } from "../maths/units";
import { type Work } from "../maths/work";
import { type Bits, type Cover, type Gray } from "../raster/types";
import { type Tones } from "../inspect/tones";
import { type Finish, type Placement } from "../result/finish";
import { type Dotting } from "../screen/dotting";

/** Settings that every method has: what the beam does to the material, and a film for a resist to be handed over too. */
export const shared = {
  material: z.enum(["burns-dark", "burns-pale"]).default("burns-dark"),
  resistFilm: z
    .strictObject({ printerDotsPerInch: z.number().min(LEAST_DPI).max(MOST_DPI).default(720) })
    .optional(),
};

export interface Shared {
  readonly method: string;
  readonly material: "burns-dark" | "burns-pale";
  readonly resistFilm?: { readonly printerDotsPerInch: number };
}

/** Grey as it is to be marked: dark is marked, and outside the art it is white. */
export interface Wanted {
  readonly gray: Gray;
  readonly cover: Cover;
  readonly finish: Finish;
  /** Rows of the finished piece that lie above this part of it; 0 for the whole. */
  readonly top: number;
}

export interface Marks {
  readonly bits: Bits;
  /** Threshold that was used, when the method has one. */
  readonly threshold?: number;
}

/** A setting spread out for a test strip: a few values of it that are worth comparing. */
export interface MethodVariants<S> {
  readonly id: string;
  readonly title: string;
  /** Settings to lay side by side; what is set now is among them. */
  readonly spread: (settings: S) => readonly { readonly label: string; readonly settings: S }[];
}

/** What a setting may not be, and what it may. */
export interface Refusal {
  readonly setting: string;
  readonly value: unknown;
  readonly allowed: string;
}

/** Lines to the inch, and their angle in degrees, counter-clockwise. */
export interface Ruling {
  readonly linesPerInch: number;
  readonly angle: number;
}

/**
 * The dots of a plate in a set of films, by the same method: how they are written on an ink, and their thresholds.
 * @typeParam W  what stands in an ink's `screen`
 */
export interface PlateDots<W = unknown> {
  readonly settings: z.ZodType<W>;
  /** Whether what stands on an ink is this method's. */
  readonly isOf: (screen: unknown) => screen is W;
  /** How it is written, for a refusal. */
  readonly written: string;
  readonly label: string;
  readonly tip?: string;
  /** What stands there once it is chosen. */
  readonly usual: W;
  /** What cannot be met at a resolution. */
  readonly refuses?: (screen: W, dotsPerInch: number) => Refusal | null;
  /** Its lines, where it has any: they can make a pattern with those of other inks. */
  readonly ruling?: (screen: W) => Ruling;
  /** @param plate  its number in print order, so that dots of two inks need not fall on each other */
  readonly dotting: (screen: W, plate: number, dotsPerInch: number) => Work<Dotting>;
  /** What stands in a film's margin. @param steps  of the wedge that is printed beside it */
  readonly words: (screen: W, steps: number) => string;
}

/** One way to black and white. A new one is a file beside the others and an entry in `methods.ts`. */
export interface Method<S extends Shared = Shared> {
  readonly id: S["method"];
  readonly title: string;
  /** When to take it, in a few words. */
  readonly tip: string;
  readonly settings: z.ZodObject;
  /** What its settings begin at once it is chosen; the defaults when left out. */
  readonly start?: (finish: Finish) => Partial<S>;
  /** Refuses settings that cannot be met at a size. @throws RouteError */
  readonly admit?: (settings: S, place: Placement) => void;
  /** Its marks; outside the art they are taken off by whoever asks. */
  readonly marks: (wanted: Wanted, settings: S) => Work<Marks>;
  /** What its marks average to from afar, 0 = all marked; left out where the marks themselves are as quick. */
  readonly fromAfar?: (wanted: Wanted, settings: S) => Work<Gray>;
  /** Rows above the wanted ones that must be run too; null when marks depend on the whole picture. */
  readonly leadIn: (settings: S, finish: Finish) => number | null;
  /** How many tones it can tell apart; left out where any share of dots can be made. */
  readonly tones?: (settings: S, finish: Finish) => Tones;
  /** Bare and solid areas are meant, as in a drawing. */
  readonly lineWork: boolean;
  /** What of it stands in a strip that compares methods. */
  readonly samples: readonly { readonly label: string; readonly settings: Partial<S> }[];
  /** Which of the samples a setting is, so that changed ones can stand in its place. */
  readonly sampleOf: (settings: S) => { readonly label: string; readonly at: number };
  readonly variants: readonly MethodVariants<S>[];
  readonly summary: (settings: S) => string;
  /** The same for an ink of a set of films; left out by a method that makes no plate. */
  readonly plate?: PlateDots;
}

export const definePlateDots = <W>(plate: PlateDots<W>): PlateDots<W> => plate;

export const defineMethod = <S extends Shared>(method: Method<S>): Method<S> => method;
