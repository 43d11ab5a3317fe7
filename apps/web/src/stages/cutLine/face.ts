import { defineFace } from "../face";
import { CutLineHands } from "./CutLineHands";
import { CutLinePanel } from "./CutLinePanel";

export const cutLineFace = defineFace({
  id: "cutLine",
  Panel: CutLinePanel,
  Hands: CutLineHands,
  hatched: () => true,
});
