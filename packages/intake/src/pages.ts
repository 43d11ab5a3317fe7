import { type PageBox, type PageView } from "@hardline/contract";
import { IntakeError } from "./errors";

/** A part of a file that is taken as artwork. */
export interface Part {
  /** From 1. */
  readonly page: number;
  readonly box: PageBox;
  /** Layers that are drawn, by their names; left out, those that the file shows, but for what is cut along. */
  readonly layers?: readonly string[];
}

export const FIRST: Part = { page: 1, box: "crop" };

/** What a part of a file is called. */
export type PartName = PageView["called"];

/** The place of a part in a list, from 0. @throws IntakeError where there is no such part */
export function numbered({ page, box }: Part, count: number): number {
  if (!(Number.isInteger(page) && page >= 1 && page <= count))
    throw new IntakeError(`page is ${page}; allowed: a whole number 1 to ${count}.`);
  if (box !== "crop") throw new IntakeError(`box is ${box}; a picture has crop alone.`);
  return page - 1;
}

/** Pictures of a file, to choose from. */
export const framesOf = (
  called: PartName,
  sizes: readonly { readonly width: number; readonly height: number }[],
): PageView[] =>
  sizes.map(({ width, height }, k) => ({
    called,
    page: k + 1,
    pixels: [width, height],
    boxes: [],
    layers: [],
  }));
