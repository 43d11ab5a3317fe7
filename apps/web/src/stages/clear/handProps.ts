import { type Frame } from "@hardline/core/path/frame";
import { type Finish } from "@hardline/core/result/finish";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Box, type Placed } from "../../table/geometry";
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
