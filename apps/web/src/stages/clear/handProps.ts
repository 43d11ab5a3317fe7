import { type Finish, type Frame } from "@hardline/core";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Box, type Placed } from "../../bench/table/geometry";
import { type ClearTools } from "./useClear";
import { type ClearNote } from "./worker";

/** What each of Clear's hands works with. */
export interface HandProps {
  readonly engine: BenchEngine;
  readonly tools: ClearTools;
  readonly finish: Finish;
  readonly frame: Frame;
  readonly placed: Placed;
  readonly box: Box;
  /** Islands that were found; null while Clear has not run. */
  readonly found: ClearNote | null;
}
