import { type Readings } from "@hardline/core/inspect/check";
import { type Finish } from "@hardline/core/result/finish";
import { type ComponentType } from "react";

/** What the controls of one way to black and white are given. */
export interface MethodProps<S> {
  readonly settings: S;
  readonly change: (settings: Partial<S>) => void;
  /** What was last measured; null until it was. */
  readonly readings: Readings | null;
  /** Null where the settings contradict each other. */
  readonly finish: Finish | null;
}

export type MethodPanel = ComponentType<MethodProps<never>>;
