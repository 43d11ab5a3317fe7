import { type z } from "zod";
import { type Check, type Limits, type Readings } from "../inspect/check";
import { type Work } from "../maths/work";
import { type Art } from "../route/art";

/** What a stage finds when it looks at its own result. */
export interface Inspection {
  readonly readings: Readings;
  readonly checks: readonly Check[];
}

/** One step of a route: what may be set, what it does, what it says of the result. */
export interface Stage<S extends object = object> {
  readonly id: string;
  readonly title: string;
  readonly settings: z.ZodType<S>;
  /** Refuses settings that cannot be met for this artwork. @throws RouteError */
  readonly admit?: (settings: S, art: Pick<Art, "facts" | "finish">) => void;
  readonly run: (art: Art, settings: S) => Work<Art>;
  readonly inspect?: (art: Art, settings: S, limits: Limits) => Work<Inspection>;
  /** What was decided, in a few words, for the docket and the job sheet. */
  readonly summary: (settings: S) => string;
}

export const defineStage = <S extends object>(stage: Stage<S>): Stage<S> => stage;
