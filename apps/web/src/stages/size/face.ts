import { defineFace } from "../face";
import { CropHands } from "./CropHands";
import { SizePanel } from "./SizePanel";
import { useSizeTools } from "./useSizeTools";

export const sizeFace = defineFace({
  id: "size",
  useTools: useSizeTools,
  Panel: SizePanel,
  Hands: CropHands,
  keys: ({ cropping, setCropping }) => [{ press: "X", act: () => setCropping(!cropping) }],
  keyList: [
    ["X", "crop by dragging"],
    ["Enter", "done with cropping"],
    ["← ↑ → ↓", "move the box"],
  ],
});
