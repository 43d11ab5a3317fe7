import { z } from "zod";
import { LEAST_DPI, MOST_DPI } from "../../maths/units";
import { type Work } from "../../maths/work";
import { type Bits, type Cover, type Gray } from "../../raster/types";
import { type Tones } from "../../inspect/tones";
import { type Finish, type Placement } from "../../result/finish";

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

/** One way to black and white. A new one is a file beside the others and an entry in `methods.ts`. */
export interface Method<S extends Shared = Shared> {
  readonly id: S["method"];
  readonly title: string;
  /** When to take it, in a few words. */
  readonly tip: string;
  readonly settings: z.ZodObject;
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
}

export const defineMethod = <S extends Shared>(method: Method<S>): Method<S> => method;
