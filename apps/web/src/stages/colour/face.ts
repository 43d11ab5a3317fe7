import { defineFace } from "../face";
import { ColourHands } from "./ColourHands";
import { ColourPanel } from "./ColourPanel";
import { useColour, type ColourTools } from "./useColour";

export const colourFace = defineFace<ColourTools>({
  id: "colour",
  useTools: useColour,
  Panel: ColourPanel,
  Hands: ColourHands,
  keys: ({ hand, setHand }) => [
    { press: "C", act: () => setHand("colour") },
    { press: "H", act: () => setHand(hand === "shade" ? "colour" : "shade") },
  ],
  keyList: [["C  H", "colour areas, shade one"]],
  hatched: () => true,
});
