import { defineFace } from "../face";
import { pathKeys } from "../paths/pathKeys";
import { usePathTools, type PathTools } from "../paths/usePathTools";
import { CutLineHands } from "./CutLineHands";
import { CutLinePanel } from "./CutLinePanel";

export const cutLineFace = defineFace<PathTools>({
  id: "cutLine",
  useTools: (scene) => usePathTools("cutLine", scene),
  Panel: CutLinePanel,
  Hands: CutLineHands,
  keys: pathKeys,
  keyList: [["C  P  U …", "as in Trace"]],
  hatched: () => true,
});
