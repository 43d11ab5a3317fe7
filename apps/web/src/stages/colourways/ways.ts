import { hueTurned } from "@hardline/core/film/hues";
import { type Ink } from "@hardline/core/film/ink";
import { colourChange, MOST_CHANGES, type ColourChange } from "@hardline/core/recolour/change";
import { MOST_WAYS, wayWord, type Colourway } from "@hardline/core/recolour/colourway";
import { settingsOf, withColourways, type Route } from "@hardline/core/route/route";
import { tellFault } from "../../shared/tell";
import { type BenchScene } from "../face";

/** Puts other colourways on the route; what is not allowed is said and not done. */
export function putWays(
  { keeper }: Pick<BenchScene, "keeper">,
  of: (now: readonly Colourway[]) => readonly Colourway[],
): void {
  const now = keeper.get().value;
  try {
    keeper.change(withColourways(now, of(now.colourways)));
  } catch (error) {
    tellFault("The colourways were not changed", error);
  }
}

/** Changes one colourway by name. */
export const changeWay = (scene: Pick<BenchScene, "keeper">, name: string, more: Partial<Colourway>): void =>
  putWays(scene, (ways) => ways.map((w) => (w.name === name ? { ...w, ...more } : w)));

/** The colour of what the route's art is printed on. */
export function garmentOf(route: Pick<Route, "stages">): string {
  const mockUp = settingsOf(route, "mockUp");
  const own = mockUp && mockUp.colour !== "own" ? mockUp.colour : undefined;
  return settingsOf(route, "films")?.garment ?? settingsOf(route, "transfer")?.garment ?? own ?? "#f1eee6";
}

/** A name that no colourway of the route has. */
export function freeName(ways: readonly Colourway[], wanted: string): string {
  const taken = (name: string): boolean => ways.some((w) => wayWord(w.name) === wayWord(name));
  if (!taken(wanted)) return wanted;
  for (let n = 2; ; n++) if (!taken(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

export const newWay = (
  ways: readonly Colourway[],
  garment: string,
  wanted = `Colourway ${ways.length + 1}`,
): Colourway => ({
  ...{ name: freeName(ways, wanted), garment, colours: {}, recolour: [], shown: true },
});

/** A change of a colour that was picked, to begin with: to itself. */
export const changeFrom = (from: string, range: Partial<ColourChange> = {}): ColourChange =>
  colourChange.parse({ ...range, from, to: { colour: from } });

export const hasRoom = ({ recolour }: Colourway): boolean => recolour.length < MOST_CHANGES;

/**
 * A range of hues, evenly round: inks turned, and the ranges that a colourway changes turned likewise.
 * @param like  the colourway whose cloth and ranges of colours they have
 */
export function hueWays(
  ways: readonly Colourway[],
  count: number,
  inks: readonly Ink[],
  like: Pick<Colourway, "garment" | "recolour">,
): Colourway[] {
  const made: Colourway[] = [];
  for (let n = 1; n <= Math.min(count, MOST_WAYS - ways.length); n++) {
    const degrees = Math.round((360 * n) / (count + 1));
    const colours = Object.fromEntries(
      inks.filter((i) => i.role === "ink").map((i) => [i.name, hueTurned(i.colour, degrees)]),
    );
    const recolour = like.recolour.map((c) => ({ ...c, to: { hue: degrees, saturation: 1, lightness: 0 } }));
    made.push({ ...newWay([...ways, ...made], like.garment, `Hue ${degrees}°`), colours, recolour });
  }
  return made;
}
