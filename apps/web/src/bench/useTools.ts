import { type ToolScene } from "../stages/face";
import { ROWS } from "../stages/faces";

/** The tools of every stage, whether it is open or not: what was in hand is still there when it is opened again. */
export function useTools(scene: ToolScene): Record<string, unknown> {
  const tools: Record<string, unknown> = {};
  // The rows are the same, in the same order, at every render, so their hooks are too.
  for (const { id, face } of ROWS) tools[id] = face.useTools?.(scene);
  return tools;
}
