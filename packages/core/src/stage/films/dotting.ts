import { SOLID, scattered, type Dotting } from "../../film/dots";
import { type Ink, type InkScreen } from "../../film/ink";
import { type Work } from "../../maths/work";
import { keptScreenMask } from "../../screen/cell";
import { madeFor } from "../blackWhite/dots";
import { type FilmsSettings } from "./settings";

/** Dots that scatter are of this size where nothing is said. */
const USUAL_SCATTER_MM = 0.1;

/** How an ink's tones become dots where nothing is set: flat ones are solid, the others scatter. */
export function screenOf({ screen, role, strength, under }: Ink, settings: FilmsSettings): InkScreen {
  if (screen) return screen;
  const { separate } = settings;
  // White of less than full strength is a tint, and a tint needs dots.
  const tints = strength < 1 || (role === "underbase" && under < 1) || hasWeakUnder(settings, role);
  return separate === "flat" && !tints ? "solid" : { scatterMm: USUAL_SCATTER_MM };
}

const hasWeakUnder = ({ inks }: FilmsSettings, role: Ink["role"]): boolean =>
  role === "underbase" &&
  Array.isArray(inks) &&
  inks.some((i) => i.role !== "underbase" && i.under > 0 && i.under < 1);

/** Thresholds for the ink's dots. @param plate  its number in print order */
export function* dottingOf(screen: InkScreen, plate: number, dotsPerInch: number): Work<Dotting> {
  if (screen === "solid") return SOLID;
  if ("scatterMm" in screen) return scattered(screen.scatterMm, plate, dotsPerInch);
  const { linesPerInch, angle, dot } = screen;
  const mask = yield* keptScreenMask({
    linesPerInch,
    angle,
    dot,
    dotsPerInch,
    smallestMark: 1,
    smallestGap: 1,
  });
  return { mask, side: 1 };
}

/** What each tone of a plate is made, so that it comes out as wanted: the process's gain turned round. */
export function gainTable({ gain }: Ink): Uint8Array | null {
  if (gain.every(([made, seen]) => made === seen)) return null;
  const made = madeFor(gain);
  return Uint8Array.from({ length: 256 }, (_, g) => Math.round(255 * (1 - made(1 - g / 255))));
}
