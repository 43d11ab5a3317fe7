import { liftLevels } from "../clear/lift";
import { type Rgba } from "../raster/types";
import { mmOfDots } from "../maths/units";
import { type ArtworkFacts } from "../route/source";
import { enlargedBy } from "./enlarged";
import { blockinessOf, noiseOf } from "./grain";
import { groundOf, type Ground } from "./ground";
import { kindFigures, kindOf, type Kind, type KindFigures } from "./kind";
import { sampleOf } from "./sample";
import { lightOnTwoTones } from "./sheet";
import { skewOf } from "./skew";

/** What an artwork is, measured on arrival. */
export interface ArtworkReading {
  readonly kind: Kind;
  readonly figures: KindFigures;
  readonly ground: Ground;
  readonly light: "even" | "uneven";
  /** Standard deviation, in code values. */
  readonly noise: number;
  /** Excess of steps between JPEG blocks, in hundredths of a code value. */
  readonly blockiness: number;
  /** How many times it was blown up from fewer pixels. */
  readonly enlarged: number;
  /** Pixels across that carry detail. */
  readonly realWidth: number;
  readonly realHeight: number;
  /** Largest finish width and height in mm that real pixels fill, by dots per inch; null for shapes. */
  readonly largest:
    readonly { readonly dotsPerInch: number; readonly widthMm: number; readonly heightMm: number }[] | null;
  /** Degrees counter-clockwise; null when it cannot be told. */
  readonly skew: number | null;
  /** Where a lift's two ends would go. */
  readonly lift: { readonly kept: number; readonly gone: number };
}

// Thresholds: what they decide is measured by `npm run kinds`.

/** Dots per inch for which sizes are proposed: coarse, usual and fine work. */
const DENSITIES = [150, 200, 300];
/** Dimmest by brightest light under which paper counts as unevenly lit. */
const UNEVEN = 0.86;

/** Measures an artwork. */
export function readArtwork(
  picture: Rgba,
  facts: Pick<ArtworkFacts, "width" | "height" | "vector">,
): ArtworkReading {
  const { small, parts } = sampleOf(picture);
  const ground = groundOf(small);
  const figures = kindFigures(small, ground.share > 0.4 ? ground.colour : null);
  const kind = kindOf(figures, ground.pure > 0.7);
  const enlarged = facts.vector ? 1 : enlargedBy(parts);
  const [realWidth, realHeight] = [Math.round(facts.width / enlarged), Math.round(facts.height / enlarged)];
  const paperLike = kind !== "photograph" && figures.paper > 0.4;
  const dimmest = Math.min(paperLike ? figures.light : 1, lightOnTwoTones(small) ?? 1);
  const light = dimmest < UNEVEN ? "uneven" : "even";
  const tenths = (v: number): number => Math.round(v * 10) / 10;
  return {
    kind,
    figures,
    ground: { ...ground, spread: tenths(ground.spread) },
    light,
    noise: tenths(noiseOf(parts)),
    blockiness: Math.round(blockinessOf(parts)),
    enlarged,
    realWidth,
    realHeight,
    largest: facts.vector
      ? null
      : DENSITIES.map((dotsPerInch) => ({
          dotsPerInch,
          widthMm: tenths(mmOfDots(realWidth, { dotsPerInch })),
          heightMm: tenths(mmOfDots(realHeight, { dotsPerInch })),
        })),
    skew: kind === "ink on paper" ? skewOf(small) : null,
    lift: liftLevels(picture),
  };
}
