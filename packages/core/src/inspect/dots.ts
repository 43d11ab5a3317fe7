import { type Bits, type Cover } from "../raster/types";

/** Marks, and which pixels are art. */
export interface Dots {
  readonly bits: Bits;
  readonly cover: Cover;
}
