import { z } from "zod";
import { type Work } from "../../maths/work";
import { type Bits, type Cover, type Gray } from "../../raster/types";
import { type Finish } from "../../result/finish";

/** Settings that every method has: what the beam does to the material. */
export const shared = { material: z.enum(["burns-dark", "burns-pale"]).default("burns-dark") };

export interface Shared {
  readonly method: string;
  readonly material: "burns-dark" | "burns-pale";
}

/** Grey as it is to be marked: dark is marked, and outside the art it is white. */
export interface Wanted {
  readonly gray: Gray;
  readonly cover: Cover;
  readonly finish: Finish;
}

export interface Marks {
  readonly bits: Bits;
  /** Threshold that was used, when the method has one. */
  readonly threshold?: number;
}

/** A setting spread out for a test strip: a few values of it that are worth comparing. */
export interface MethodFan<S> {
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
  /** Its marks; outside the art they are taken off by whoever asks. */
  readonly marks: (wanted: Wanted, settings: S) => Work<Marks>;
  /** What its marks average to from afar, 0 = all marked; left out where the marks themselves are as quick. */
  readonly fromAfar?: (wanted: Wanted, settings: S) => Work<Gray>;
  /** Rows above the wanted ones that must be run too; null when marks depend on the whole picture. */
  readonly leadIn: (settings: S) => number | null;
  /** Bare and solid areas are meant, as in a drawing. */
  readonly lineWork: boolean;
  /** What of it stands in a strip that compares methods. */
  readonly samples: readonly { readonly label: string; readonly settings: Partial<S> }[];
  /** Which of the samples a setting is, so that changed ones can stand in its place. */
  readonly sampleOf: (settings: S) => { readonly label: string; readonly at: number };
  readonly fans: readonly MethodFan<S>[];
  readonly summary: (settings: S) => string;
}

export const defineMethod = <S extends Shared>(method: Method<S>): Method<S> => method;
