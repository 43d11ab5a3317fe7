import { furtherTurn, turnedOtherwise } from "../turn/further";
import { type Quarter } from "../turn/turn";
import { type SizeSettings } from "../stage/size/settings";
import { planOf } from "./plan";
import { replaceSettings, settingsOf, stepsOf, type Route } from "./route";
import { type ArtworkFacts } from "./source";

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

/**
 * The route with its artwork turned in another way by Size's own settings: a paper on it made flat, or no more. Everything
 * placed by hand stays on what it was placed on.
 *
 * @param facts  of the artwork as it was supplied
 * @throws RouteError when the new settings cannot be met
 */
export function routeTurnedBy(
  route: Route,
  change: Partial<Pick<SizeSettings, "paper" | "straighten">>,
  facts: ArtworkFacts,
): Route {
  const changed = replaceSettings(route, "size", { ...settingsOf(route, "size")!, ...change });
  const [before, after] = [planOf(route, facts), planOf(changed, facts)];
  const by = turnedOtherwise(facts, before.turn, after.turn, before.place.finish, after.place.finish);
  return stepsOf(changed).reduce(
    (turned, { stage, settings }) =>
      stage.turnedOn ? replaceSettings(turned, stage.id, stage.turnedOn(settings, by)) : turned,
    changed,
  );
}
