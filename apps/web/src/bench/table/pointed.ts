import { type Reading } from "@hardline/core";

/** Where the pointer is, in dots, and what is under it. */
export interface Pointed {
  readonly x: number;
  readonly y: number;
  readonly reading: Reading | null;
}
