import { type Runner } from "@hardline/core/route/runner";
import { type Made, type RenderRow } from "../renders/renders.service";

/** What a worker lends whoever makes something. */
export interface Making {
  readonly runner: Runner;
  readonly report: (progress: number, doing: string) => void;
  readonly signal: AbortSignal;
}

/** Makes one kind of what workers are asked for. */
export interface Maker {
  make(work: RenderRow, making: Making): Promise<Made>;
}
