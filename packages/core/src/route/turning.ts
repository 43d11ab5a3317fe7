import { furtherTurn } from "../raster/further";
import { type Quarter } from "../raster/turn";
import { replaceSettings, stepsOf, type Route } from "./route";

/**
 * The route with the artwork turned further, as seen: everything placed by hand stays on what it was placed on, and the
 * side that is given stays that side of the picture.
 *
 * @param piece  size of the finished piece before the turn, in mm
 */
export function routeTurnedOn(
  route: Route,
  further: Quarter,
  piece: { readonly widthMm: number; readonly heightMm: number },
): Route {
  const by = furtherTurn(further, piece);
  return stepsOf(route).reduce(
    (turned, { stage, settings }) =>
      stage.turnedOn ? replaceSettings(turned, stage.id, stage.turnedOn(settings, by)) : turned,
    route,
  );
}
