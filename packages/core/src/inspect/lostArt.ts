import { lostParts } from "../clear/lostParts";
import { type Work } from "../maths/work";
import { dotsPerMm } from "../maths/units";
import { type At } from "../path/frame";
import { type Picture } from "../result/result";
import { figure, MOST_PLACES, placeOf, type Check } from "./check";

/** So many parts may be brought back one by one. */
export const MOST_BY_ONE = 9;

/** A place of the artwork within a part, and whether the part runs out towards the ground. */
export interface Seed {
  readonly at: At;
  readonly runsOut: boolean;
}

/**
 * Parts of the art that were taken with the ground: unlike it, and gone.
 *
 * @param before  the picture before anything was taken away
 * @param meant   1 where somebody took it away by hand; null for nowhere
 * @returns where each of the parts is as well, largest first, as the places are
 */
export function* checkLost(
  art: Picture,
  before: Picture,
  meant: Uint8Array | null,
): Work<{ check: Check; seeds: Seed[] }> {
  const lost = yield* lostParts(before.colour, art.colour.data, meant);
  const parts = lost ?? [];
  const perMm = dotsPerMm(art.finish);
  const mm2 = (pixels: number): string => figure(pixels / perMm / perMm, 2);
  const many = parts.length;
  const { width, height } = art.colour;
  const { frame } = art;
  const check: Check = {
    id: "lostArt",
    level: many > 0 ? "look" : "fine",
    value: many,
    unit: "parts",
    text: many === 0 ? "No art lost" : `${many} ${many === 1 ? "part" : "parts"} of the art taken`,
    detail:
      many > 0
        ? `Unlike the ground, and gone with it; the largest ${mm2(parts[0].pixels)} mm².`
        : lost
          ? "What was taken is like the ground."
          : "None of the ground was taken, or it has too many colours to tell.",
    places: parts.slice(0, MOST_PLACES).map((part) => placeOf(part, art.finish)),
  };
  const seeds = parts.slice(0, MOST_PLACES).map(({ seed: [x, y], runsOut }): Seed => ({
    at: [frame.x + ((x + 0.5) / width) * frame.width, frame.y + ((y + 0.5) / height) * frame.height],
    runsOut,
  }));
  return { check, seeds };
}
