import { dotsPerMm } from "../../maths/units";
import { type Finish } from "../../result/finish";
import { RouteError } from "../../settings/errors";
import { type ArtworkFacts } from "../../route/source";
import { type Rect } from "../../raster/types";
import { type PieceShape, type SizeSettings } from "./settings";

/** The settings that a finish size follows from. */
type SizeOf = Pick<SizeSettings, "widthMm" | "heightMm" | "dotsPerInch" | "resample" | "shape">;

/** The largest bitmap that is made, in dots. */
export const MOST_DOTS = 200e6;

/** The part of the artwork in the piece's box, in whole pixels. */
export function cutDown(
  { width, height }: Pick<ArtworkFacts, "width" | "height">,
  shape: PieceShape | undefined,
): Rect {
  if (!shape || shape.kind === "whole") return { x: 0, y: 0, width, height };
  const [bx, by, bw, bh] = shape.box;
  const [x, y] = [Math.min(width - 1, Math.round(bx * width)), Math.min(height - 1, Math.round(by * height))];
  return {
    x,
    y,
    width: Math.max(1, Math.min(width, Math.round((bx + bw) * width)) - x),
    height: Math.max(1, Math.min(height, Math.round((by + bh) * height)) - y),
  };
}

/**
 * The finish size that settings give for an artwork, or for the part of it in the piece's box. The side not given follows from the artwork's proportion;
 * with neither, or with `resample` "none", every pixel becomes one dot.
 * @throws RouteError when both sides are given, or a side together with "none", or the bitmap gets too large
 */
export function finishOf(artwork: Pick<ArtworkFacts, "width" | "height">, settings: SizeOf): Finish {
  const { widthMm, heightMm, dotsPerInch, resample } = settings;
  const facts = cutDown(artwork, settings.shape);
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
  const perMm = dotsPerMm({ dotsPerInch });
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
