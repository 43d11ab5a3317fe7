import { settingsOf, type Route } from "@hardline/core/route/route";

/** So many are shown. */
const MOST = 16;

/** Colours of the inks that routes print in, each once. */
export function inksOfRoutes(routes: readonly Route[]): string[] {
  const colours = routes.flatMap((route) => {
    const inks = settingsOf(route, "films")?.inks;
    return Array.isArray(inks) ? inks.map((ink) => ink.colour.toLowerCase()) : [];
  });
  return [...new Set(colours)].slice(0, MOST);
}
