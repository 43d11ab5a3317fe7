import { MM_PER_INCH, type ArtworkFacts, type Finish } from "../../route/art";
import { RouteError } from "../../route/errors";
import { type SizeSettings } from "./settings";

/** The largest bitmap that is made, in dots. */
export const MOST_DOTS = 200e6;

/**
 * The finish size that settings give for an artwork. The side not given follows from the artwork's proportion;
 * with neither, or with `resample` "none", every pixel becomes one dot.
 * @throws RouteError when both sides are given, or a side together with "none", or the bitmap gets too large
 */
export function finishOf(facts: Pick<ArtworkFacts, "width" | "height">, settings: SizeSettings): Finish {
  const { widthMm, heightMm, dotsPerInch, resample } = settings;
  if (widthMm !== undefined && heightMm !== undefined) {
    throw new RouteError(
      "size",
      "heightMm",
      heightMm,
      "widthMm or heightMm, not both; the other side follows",
    );
  }
  const side = widthMm !== undefined ? "widthMm" : heightMm !== undefined ? "heightMm" : null;
  if (resample === "none" && side) {
    throw new RouteError(
      "size",
      side,
      settings[side],
      'no side together with resample "none"; the size follows from dotsPerInch',
    );
  }
  const perMm = dotsPerInch / MM_PER_INCH;
  const scale =
    widthMm !== undefined
      ? (widthMm * perMm) / facts.width
      : heightMm !== undefined
        ? (heightMm * perMm) / facts.height
        : 1;
  const widthPx = Math.max(1, Math.round(facts.width * scale));
  const heightPx = Math.max(1, Math.round(facts.height * scale));
  if (widthPx * heightPx > MOST_DOTS) {
    throw new RouteError(
      "size",
      side ?? "dotsPerInch",
      settings[side ?? "dotsPerInch"],
      `a bitmap of ${MOST_DOTS / 1e6} million dots or less; this would be ${widthPx} x ${heightPx}`,
    );
  }
  return { widthMm: widthPx / perMm, heightMm: heightPx / perMm, widthPx, heightPx, dotsPerInch };
}
