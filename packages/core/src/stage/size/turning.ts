import { boxTurnedOn, turnedOn, type Quarter } from "../../raster/turn";
import { replaceSettings, settingsOf, type Route } from "../../route/route";
import { clearTurnedOn } from "../clear/turnedOn";

/**
 * The route with the artwork turned further, as seen: the piece's box and everything placed by hand stay on what they
 * were placed on, and the side that is given stays that side of the picture.
 */
export function routeTurnedOn(route: Route, further: Quarter): Route {
  const size = settingsOf(route, "size");
  if (!size) return route;
  const { widthMm, heightMm, shape, straighten, turn, mirror, ...rest } = size;
  const across = further === "left" || further === "right";
  const sides = across ? { widthMm: heightMm, heightMm: widthMm } : { widthMm, heightMm };
  const next = {
    ...rest,
    ...Object.fromEntries(Object.entries(sides).filter(([, side]) => side !== undefined)),
    ...turnedOn({ straighten, turn, mirror }, further),
    shape: shape.kind === "whole" ? shape : { ...shape, box: boxTurnedOn(shape.box, further) },
  };
  const turned = replaceSettings(route, "size", next);
  const clear = settingsOf(route, "clear");
  return clear ? replaceSettings(turned, "clear", clearTurnedOn(clear, further)) : turned;
}
