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

/** What the controls of an ink's dots are given, for one way to black and white. */
export interface PlateProps<W> {
  readonly screen: W;
  readonly change: (screen: W) => void;
  readonly ink: string;
}

export type PlatePanel = ComponentType<PlateProps<never>>;
export type MethodPanel = ComponentType<MethodProps<never>>;
