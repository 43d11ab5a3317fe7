import { gapsFor } from "./ClearPanel";
import { type ClearTools } from "./useClear";

/** Keys of the open Clear stage. */
export function clearKeys(tools: ClearTools): [string, () => void][] {
  const { ops, chosen, look, setLook, setHand, add, remove } = tools;
  return [
    ["P", () => setHand({ kind: "pick" })],
    [
      "G",
      () => {
        const picks = ops.filter((o) => o.op === "pick");
        const last = picks[picks.length - 1];
        if (last) add(gapsFor(picks.length - 1, last.tolerance));
      },
    ],
    ["K", () => add({ op: "hold", strokes: [] })],
    ["E", () => add({ op: "brush", paints: "away", strokes: [] })],
    ["A", () => setLook(look === "cover" ? "art" : "cover")],
    ["T", () => setLook(look === "tint" ? "art" : "tint")],
    ["Delete", () => chosen && remove(chosen.index)],
  ];
}
