import { type Light } from "./model";
import { type Given } from "./solve";

// Thresholds: what they decide is measured by `npm run films`.

/** The four process inks as they print, darkest last. */
export const PROCESS_INKS = [
  { name: "yellow", colour: "#ffed00", angle: 0 },
  { name: "magenta", colour: "#e2007a", angle: 75 },
  { name: "cyan", colour: "#009ee0", angle: 15 },
  { name: "black", colour: "#1d1d1b", angle: 45 },
] as const;

/**
 * How much black a colour gets: of the grey that all three of its colours have in common, as dots of cyan, magenta and
 * yellow would make it, nothing while that is pale, then more and more, up to `most` of it. The three others are then
 * found so that with the black they come nearest to the colour: as much of them goes as the black stands for.
 *
 * @param most  black generation, 0..1
 * @see Yule, "Principles of Color Reproduction", 1967, chapter 11: under-colour removal and black generation
 */
function blackFor(most: number): Given {
  return ([r, g, b]: Light) => {
    const grey = 1 - Math.max(r, g, b);
    const deep = Math.max(0, (grey - STARTS) / (1 - STARTS));
    return most * deep * deep;
  };
}

/** Paler grey than this gets no black: single black dots show in the lights. */
const STARTS = 0.2;

/**
 * How much a highlight white gets that lies on top of all: nothing up to `from` of full light, all at white.
 * @param from  0..1, linear
 */
function highlightFor(from: number): Given {
  return ([r, g, b]: Light) => Math.max(0, (Math.min(r, g, b) - from) / (1 - from));
}

/** An amount that follows from the colour alone, as it is asked for. */
export type GivenAmount =
  { readonly kind: "black"; readonly most: number } | { readonly kind: "highlight"; readonly from: number };

export const givenAmount = (given: GivenAmount): Given =>
  given.kind === "black" ? blackFor(given.most) : highlightFor(given.from);
