import { strToU8 } from "fflate";
import { concat } from "./pngParts";

/** A text that is written piece by piece: one string of many megabytes would be turned into bytes in one go. */
export class Pieces {
  private readonly parts: Uint8Array[] = [];

  add(text: string): void {
    this.parts.push(strToU8(text));
  }

  /** All of it, as UTF-8. */
  bytes(): Uint8Array {
    return concat(this.parts);
  }
}
