import { labOfHex } from "../../film/glareLab";
import { labDistance, numberOf } from "../../colour/oklab";
import { findColours, MOST_INKS } from "../../film/clusters";
import { colourName, freeName } from "../../film/colourName";
import { type Ink } from "../../film/ink";
import { PROCESS_INKS } from "../../film/process";
import { proposeInks } from "../../film/proposeInks";
import { type Work } from "../../maths/work";
import { type Rgba } from "../../raster/types";
import { inkSettings, type FilmsSettings } from "./settings";

/** The inks of a set of films, in print order, and why these. */
export interface Chosen {
  readonly inks: readonly Ink[];
  readonly reason: string | null;
}

/** An ink with all that is usual. */
export const usualInk = (given: { readonly name: string; readonly colour: string } & Partial<Ink>): Ink =>
  inkSettings.parse(given) as Ink;

/** Inks of several tones on cloth are this many where nobody said. */
const USUAL_TONAL = 6;
/** The four process inks at the ruling and angles that the trade has for them. */
const PROCESS_LINES = 45;

/** The inks that are set, or those that the art asks for. */
export function* inksFor(art: Rgba, settings: FilmsSettings, locked: readonly Ink[] = []): Work<Chosen> {
  const { inks, separate, garment } = settings;
  if (Array.isArray(inks)) return { inks: inks as readonly Ink[], reason: null };
  switch (separate) {
    case "black":
      return { inks: [usualInk({ name: "black", colour: "#15181d" })], reason: "One black, as asked for." };
    case "process":
      return { inks: processInks(), reason: "The four process inks, yellow first." };
    case "flat":
      return yield* flatInks(art, inks as number | "auto", garment, locked);
    default:
      return yield* tonalInks(art, inks === "auto" ? USUAL_TONAL : (inks as number), garment);
  }
}

const processInks = (): Ink[] =>
  PROCESS_INKS.map(({ name, colour, angle }) =>
    usualInk({
      name,
      colour,
      opacity: 0,
      screen: { linesPerInch: PROCESS_LINES, angle, dot: "ellipse" },
    }),
  );

function* flatInks(art: Rgba, count: number | "auto", garment: string, locked: readonly Ink[]): Work<Chosen> {
  const known = [garment, ...locked.map((i) => i.colour)];
  const wanted = count === "auto" ? "auto" : Math.max(1, Math.min(MOST_INKS, count - locked.length));
  const { colours, reason } = yield* findColours(art, wanted, known);
  const taken = [...locked];
  for (const { colour } of colours) taken.push(named(colour, taken));
  // Pale lies under dark, as it is printed.
  const inks = taken.sort((p, q) => labOfHex(q.colour).l - labOfHex(p.colour).l);
  return { inks: inks.length > 0 ? inks : [named(darkOn(garment), [])], reason };
}

function* tonalInks(art: Rgba, count: number, garment: string): Work<Chosen> {
  const colours = yield* proposeInks(art, numberOf(garment), count, 1);
  const inks: Ink[] = [];
  for (const colour of colours) inks.push(named(colour, inks));
  return {
    inks,
    reason: `${count} inks that bring the print nearest to the art, chosen one after another by mean colour difference.`,
  };
}

/** An ink of a colour, with a name that none of the others has. */
export const named = (colour: string, others: readonly Pick<Ink, "name">[]): Ink =>
  usualInk({
    name: freeName(
      colourName(colour),
      others.map((o) => o.name),
    ),
    colour,
  });

/** What shows on a garment, where its art has nothing to say. */
const darkOn = (garment: string): string =>
  labDistance(labOfHex(garment), labOfHex("#15181d")) > 30 ? "#15181d" : "#ffffff";
