import { defineFace } from "../face";
import { SizeHands } from "./SizeHands";
import { SizePanel } from "./SizePanel";
import { useSizeTools } from "./useSizeTools";

export const sizeFace = defineFace({
  id: "size",
  useTools: useSizeTools,
  Panel: SizePanel,
  Hands: SizeHands,
  keys: ({ cropping, setCropping, placing, setPlacing }) => [
    { press: "X", act: () => setCropping(!cropping) },
    { press: "P", act: () => setPlacing(!placing) },
  ],
  keyList: [
    ["X", "crop by dragging"],
    ["P", "a paper's corners by dragging"],
    ["N", "the next corner"],
    ["Enter", "done with either"],
    ["← ↑ → ↓", "move the box, or the corner"],
  ],
});
