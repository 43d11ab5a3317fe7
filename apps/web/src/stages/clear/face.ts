import { defineFace } from "../face";
import { clearKeys } from "./clearKeys";
import { ClearHands } from "./ClearHands";
import { ClearPanel } from "./ClearPanel";
import { useClear, type ClearTools } from "./useClear";
import { type ClearView } from "./worker";

export const clearFace = defineFace<ClearTools>({
  id: "clear",
  useTools: useClear,
  Panel: ClearPanel,
  Hands: ClearHands,
  keys: clearKeys,
  keyList: [
    ["P  G  K  E", "pick, gaps, hold, eraser"],
    ["Alt wheel", "tolerance, brush size"],
    ["A  T", "alpha only, faint tint"],
  ],
  view: ({ showing, chosen }): ClearView => ({
    showing,
    ...(chosen?.op.op === "gaps" ? { gapsOf: chosen.index } : {}),
  }),
  hatched: ({ showing }) => showing === "art",
});
