import { type Rect, type Rgba } from "../raster/types";
import { type CurvePoint } from "../tone/curve";
import { bareLight } from "./bareLight";
import { findCorners, type Found } from "./corners";
import { fitResponse } from "./fitResponse";
import { BARE, DETAILS, drawWedge, markedShare, PATCHES, STEPS_BARE, WIDTH_MM } from "./layout";
import { lightOf, meanIn, type Light } from "./light";

/** A photograph on which no wedge can be read, and why. */
export class WedgeError extends Error {
  constructor(why: string) {
    super(why);
    this.name = "WedgeError";
  }
}

/** What a photograph of a wedge says. */
export interface WedgeReading {
  /** Share made and share seen, 0..1. */
  readonly steps: readonly CurvePoint[];
  /** The smallest lone dot, line and gap that held, in dots of the machine; null where none did. */
  readonly held: { readonly dot: number | null; readonly line: number | null; readonly gap: number | null };
  /** Where the corners were found on the photograph, in its pixels. */
  readonly corners: readonly (readonly [number, number])[];
}

/*
 * Thresholds: what they refuse and what they let through is measured by `npm run wedges`.
 */

/** A detail holds when this much of what it should mark is marked. */
const HOLDS = 0.5;
/** Tones between the corner marks follow the steps at least so well, as a correlation. */
const FOLLOWS = 0.7;
/** Readings further from a smooth curve than this, in percent, are of something else, or of a wedge badly seen. */
const MOST_FIT_PERCENT = 2;
/** Full marks differ from the bare material by this factor at least: below it, noise is read as tone. */
const LEAST_CONTRAST = 1.12;

/**
 * Reads a step wedge off a photograph: the corner marks are found and say how the wedge lies; the light is evened by the
 * bare material between the steps, and what is seen is told between that and the full marks. What does not lie on a
 * smooth curve is refused: a wrong curve would spoil every job after it.
 *
 * @param burnsPale  marks are paler than the material
 * @throws WedgeError
 * @see Murray, "Monochrome reproduction in photoengraving", J. Franklin Institute 221, 1936: share from reflectance
 */
export function readWedge(photo: Rgba, dotsPerInch: number, burnsPale: boolean): WedgeReading {
  const light = lightOf(photo);
  const { map, corners } = placed(light, burnsPale);
  const lightOn = (places: typeof BARE) =>
    bareLight(places.map(([x, y]) => ({ x, y, light: meanIn(light, map, x - 0.5, y - 0.5, 1, 1) })));
  const bare = lightOn(STEPS_BARE);
  const solid = PATCHES.find((p) => p.percent === 100)!;
  const full = meanOf(light, map, solid) / bare(solid.x + solid.width / 2, solid.y + solid.height / 2);
  if (!(burnsPale ? full > LEAST_CONTRAST : full < 1 / LEAST_CONTRAST))
    throw new WedgeError(
      `Full marks are not ${burnsPale ? "paler" : "darker"} enough than the bare material on the photograph to read tones between them.`,
    );
  const shareOf = (box: Rect, on: typeof bare): number => {
    const seen = meanOf(light, map, box) / on(box.x + box.width / 2, box.y + box.height / 2);
    return (1 - seen) / (1 - full);
  };
  const steps = PATCHES.map((p): CurvePoint => [p.percent / 100, shareOf(p, bare)]).toSorted(
    (a, b) => a[0] - b[0],
  );
  const { errorPercent } = fitResponse(steps);
  if (errorPercent > MOST_FIT_PERCENT)
    throw new WedgeError(
      `The steps lie ${errorPercent.toFixed(1)} % off a smooth curve; ${MOST_FIT_PERCENT} % is the most. Photograph it again, from straight above, in even light, without a reflection.`,
    );
  const gray = drawWedge(dotsPerInch);
  const bareAll = lightOn(BARE);
  const smallest = (kind: "dot" | "line" | "gap"): number | null => {
    let found: number | null = null;
    for (const detail of DETAILS.filter((d) => d.kind === kind).toReversed()) {
      const made = markedShare(gray, detail, dotsPerInch);
      const seen = shareOf(detail, bareAll);
      const held = kind === "gap" ? (1 - seen) / (1 - made) : seen / made;
      if (held < HOLDS) break;
      found = detail.dots;
    }
    return found;
  };
  return { steps, held: { dot: smallest("dot"), line: smallest("line"), gap: smallest("gap") }, corners };
}

/** Where the wedge lies, large enough to be read. @throws WedgeError */
function placed(light: Light, burnsPale: boolean): Found {
  const { found, spots } = findCorners(light, burnsPale);
  if (!found)
    throw new WedgeError(
      spots < 4
        ? `${spots} corner marks were found; all four must be on the photograph, with some bare material round them.`
        : "No four of the marks on the photograph lie as a wedge's corners do; all four must be on it, with some bare material round them.",
    );
  const [[ax, ay], [bx, by]] = found.corners;
  const across = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  if (across < 3 * WIDTH_MM)
    throw new WedgeError(
      `The wedge is ${Math.round(across)} pixels wide on the photograph; ${3 * WIDTH_MM} or more are needed.`,
    );
  if (found.follows < FOLLOWS) throw new WedgeError("What lies between the corner marks is not this wedge.");
  return found;
}

/** Of a step this much of each side is left out, in mm, where it meets the bare material. */
const RIM = 1;

const meanOf = (
  light: Light,
  map: Found["map"],
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): number =>
  height > 8
    ? meanIn(light, map, x + RIM, y + RIM, width - 2 * RIM, height - 2 * RIM)
    : meanIn(light, map, x, y, width, height);
