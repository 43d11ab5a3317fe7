import { type StageKey } from "../face";
import { gapsFor } from "./opsModel";
import { type ClearTools } from "./useClear";

/** Keys of the open Clear stage. */
export function clearKeys(tools: ClearTools): StageKey[] {
  const { ops, chosen, showing, setShowing, setHand, add, remove } = tools;
  const gapsOfLast = (): void => {
    const picks = ops.filter((o) => o.op === "pick");
    const last = picks[picks.length - 1];
    if (last) add(gapsFor(picks.length - 1, last.tolerance));
  };
  return [
    { press: "P", act: () => setHand({ kind: "pick" }) },
    { press: "G", act: gapsOfLast },
    { press: "K", act: () => add({ op: "hold", strokes: [] }) },
    { press: "E", act: () => add({ op: "brush", paints: "away", strokes: [] }) },
    { press: "A", act: () => setShowing(showing === "cover" ? "art" : "cover") },
    { press: "T", act: () => setShowing(showing === "tint" ? "art" : "tint") },
    { press: "Delete", act: () => chosen && remove(chosen.index) },
  ];
}
