import { figure, MOST_PLACES, type Check, type Place } from "../../inspect/check";
import { onPiece } from "../../path/frame";
import { type Picture } from "../../result/result";
import { atOnce, type StageCheck } from "../checks";
import { type ColourSettings } from "./settings";

interface About {
  readonly result: Picture;
  readonly settings: ColourSettings;
}

/** Everything that is looked at in a coloured drawing. */
export const COLOUR_CHECKS: readonly StageCheck<About>[] = [
  atOnce(({ result, settings }) => {
    const { areas = [], mm2 = [] } = result.coloured ?? {};
    const last = new Map<number, number>();
    areas.forEach((area, k) => area >= 0 && last.set(area, k));
    const shown = [...last].filter(([, k]) => settings.areas[k].colour !== null);
    return {
      readings: {
        areasColoured: shown.length,
        colouredMm2: Math.round(10 * shown.reduce((sum, [, k]) => sum + mm2[k], 0)) / 10,
      },
    };
  }),
  atOnce(({ result, settings }) => ({ checks: [lost(result, settings)] })),
  atOnce(({ result, settings }) => ({ checks: [together(result, settings)] })),
];

/** A place is shown so large, in mm. */
const SHOWN_MM = 4;

function placeOf({ finish, frame }: Picture, at: readonly [number, number]): Place {
  const [x, y] = onPiece(at, { finish, frame });
  return { xMm: x - SHOWN_MM / 2, yMm: y - SHOWN_MM / 2, widthMm: SHOWN_MM, heightMm: SHOWN_MM };
}

/** Colours whose area is no longer there: a line lies where it was, or it lies off the piece. */
function lost(result: Picture, { areas }: ColourSettings): Check {
  const found = result.coloured?.areas ?? [];
  const gone = areas.filter((_, k) => found[k] === -1);
  return {
    id: "coloursLost",
    level: gone.length > 0 ? "look" : "fine",
    value: gone.length,
    unit: "colours",
    text:
      gone.length === 0
        ? "Every colour has its area"
        : gone.length === 1
          ? "One colour is lost"
          : `${gone.length} colours are lost`,
    detail:
      gone.length === 0
        ? `${areas.length} ${areas.length === 1 ? "place" : "places"}, each in an area.`
        : "Where the area was is now a line, or no piece.",
    places: gone.slice(0, MOST_PLACES).map(({ at }) => placeOf(result, at)),
    ...(gone.length > 0 && {
      repair: { label: "Forget them", change: { areas: areas.filter((_, k) => found[k] !== -1) } },
    }),
  };
}

/** Two colours in one area: the lines between them have a gap wider than is closed. */
function together(result: Picture, { areas, gapMm }: ColourSettings): Check {
  const found = result.coloured?.areas ?? [];
  const colours = new Map<number, { readonly of: Set<string>; readonly first: number }>();
  areas.forEach(({ colour }, k) => {
    if (found[k] < 0 || colour === null) return;
    const known = colours.get(found[k]) ?? { of: new Set<string>(), first: k };
    known.of.add(colour.toLowerCase());
    colours.set(found[k], known);
  });
  const run = [...colours.values()].filter(({ of }) => of.size > 1);
  return {
    id: "coloursTogether",
    level: run.length > 0 ? "look" : "fine",
    value: run.length,
    unit: "areas",
    text: run.length === 0 ? "No colours run together" : "Colours run together",
    detail:
      run.length === 0
        ? `Gaps in lines up to ${figure(gapMm, 2)} mm are closed.`
        : `Two colours are in one area, and the later one shows: a gap in its lines is wider than ${figure(gapMm, 2)} mm.`,
    places: run.slice(0, MOST_PLACES).map(({ first }) => placeOf(result, areas[first].at)),
  };
}
