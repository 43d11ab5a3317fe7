import { type StageId } from "@hardline/core";

/** Rows of the docket: the stages, and handing over at the end. */
export type BenchStage = StageId | "handOver";

export const BENCH_STAGES: readonly { id: BenchStage; title: string }[] = [
  { id: "artwork", title: "Artwork" },
  { id: "size", title: "Size" },
  { id: "clear", title: "Clear" },
  { id: "tone", title: "Tone" },
  { id: "blackWhite", title: "Black & white" },
  { id: "handOver", title: "Hand over" },
];

export const titleOf = (id: BenchStage): string => BENCH_STAGES.find((s) => s.id === id)!.title;

/** The stage whose result is looked at when a row is open. */
export const shownStage = (open: BenchStage): StageId => (open === "handOver" ? "blackWhite" : open);
