import { type PageView } from "@hardline/contract";
import { IntakeError } from "./errors";
import { type Part } from "./pdf/page";

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
