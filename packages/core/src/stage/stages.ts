import { type ResultKind } from "../result/result";
import { artwork } from "./artwork/artwork";
import { blackWhite } from "./blackWhite/blackWhite";
import { clear } from "./clear/clear";
import { colour } from "./colour/colour";
import { cutLine } from "./cutLine/cutLine";
import { films } from "./films/films";
import { mockUp } from "./mockUp/mockUp";
import { size } from "./size/size";
import { type AnyStage } from "./stage";
import { tone } from "./tone/tone";
import { trace } from "./trace/trace";
import { transfer } from "./transfer/transfer";

/** Every stage there is, in the order of work. A new stage is one folder beside this file and one entry here. */
const ALL = [
  artwork,
  size,
  clear,
  colour,
  tone,
  blackWhite,
  trace,
  cutLine,
  films,
  transfer,
  mockUp,
] as const;

export type StageId = (typeof ALL)[number]["id"];
export type RegisteredStage = AnyStage & { readonly id: StageId; readonly gives: ResultKind };

export const STAGES = ALL as unknown as readonly RegisteredStage[];

export function stageById(id: string): RegisteredStage {
  const stage = STAGES.find((s) => s.id === id);
  if (!stage) throw new Error(`there is no stage ${id}`);
  return stage;
}

/** The settings that a stage of this name takes, as a type. */
export type SettingsOf<Id extends StageId> =
  Extract<(typeof ALL)[number], { id: Id }> extends { settings: { _output: infer S } } ? S : never;

/** Where a stage stands in the order of work. */
export const placeInOrder = (id: StageId): number => STAGES.findIndex((s) => s.id === id);
