import { artwork } from "./artwork/artwork";
import { blackWhite } from "./blackWhite/blackWhite";
import { clear } from "./clear/clear";
import { size } from "./size/size";
import { type Stage } from "./stage";
import { tone } from "./tone/tone";

/** Every stage there is, in the order of work. A new stage is one folder beside this file and one entry here. */
export const STAGES = [artwork, size, clear, tone, blackWhite] as unknown as readonly Stage[];

export type StageId = "artwork" | "size" | "clear" | "tone" | "blackWhite";

export function stageById(id: string): Stage {
  const stage = STAGES.find((s) => s.id === id);
  if (!stage) throw new Error(`there is no stage ${id}`);
  return stage;
}
