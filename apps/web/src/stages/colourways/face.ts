import { defineFace } from "../face";
import { ColourwaysHands } from "./ColourwaysHands";
import { ColourwaysPanel } from "./ColourwaysPanel";
import { useWays, type WayTools } from "./useWays";

/** Colourways belong to the route and are no stage: all that is seen on other cloth and in other colours follows them. */
export const colourwaysFace = defineFace<WayTools>({
  id: "colourways",
  title: "Colourways",
  words: ({ route: { colourways } }) =>
    colourways.length === 0 ? "as it is" : `as it is, ${colourways.map((w) => w.name).join(", ")}`,
  useTools: useWays,
  Panel: ColourwaysPanel,
  Hands: ColourwaysHands,
});
