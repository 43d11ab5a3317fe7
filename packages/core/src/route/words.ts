import { type Route } from "./route";
import { textsOn, withTexts } from "./texts";

/** Words that stand on a route, each once, in the order of its stages; those that a table fills are left out. */
export const wordsOn = (route: Route): string[] => [
  ...new Set(
    textsOn(route)
      .filter(({ field }) => field === undefined)
      .map(({ text }) => text),
  ),
];

/**
 * A route with other words in the place of some: wherever those stand. Empty ones leave the words out.
 * @param words  what stands there, and what is to
 * @throws RouteError when something is none for words
 */
export const withWords = (route: Route, words: ReadonlyMap<string, string>): Route =>
  withTexts(route, ({ field, text }) => (field === undefined ? words.get(text) : undefined));
