import { type Reading } from "@hardline/core/result/read";

/** Where the pointer is, in dots, and what is under it. */
export interface Pointed {
  readonly x: number;
  readonly y: number;
  readonly reading: Reading | null;
}
