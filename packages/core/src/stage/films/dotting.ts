import { type Dotting } from "../../screen/dotting";
import { madeFor } from "../../dots/dotSettings";
import { type Ruling } from "../../dots/method";
import { linePlate } from "../../dots/methods/line";
import { scatterPlate } from "../../dots/methods/scatter";
import { plateMethodOf, type InkScreen } from "../../dots/methods";
import { type Ink } from "../../film/ink";
import { type Work } from "../../maths/work";
import { type FilmsSettings } from "./settings";

/** How an ink's tones become dots where nothing is set: flat ones are solid, the others scatter. */
export function screenOf({ screen, role, strength, under }: Ink, settings: FilmsSettings): InkScreen {
  if (screen) return screen;
  const { separate } = settings;
  // White of less than full strength is a tint, and a tint needs dots.
  const tints = strength < 1 || (role === "underbase" && under < 1) || hasWeakUnder(settings, role);
  return separate === "flat" && !tints ? linePlate.usual : scatterPlate.usual;
}

const hasWeakUnder = ({ inks }: FilmsSettings, role: Ink["role"]): boolean =>
  role === "underbase" &&
  Array.isArray(inks) &&
  inks.some((i) => i.role !== "underbase" && i.under > 0 && i.under < 1);

/** Thresholds for the ink's dots. @param plate  its number in print order */
export const dottingOf = (screen: InkScreen, plate: number, dotsPerInch: number): Work<Dotting> =>
  plateMethodOf(screen).plate.dotting(screen, plate, dotsPerInch);

/** The lines of an ink's screen; none where its dots have no lines. */
export function rulingOf(ink: Ink, settings: FilmsSettings): Ruling | undefined {
  const screen = screenOf(ink, settings);
  return plateMethodOf(screen).plate.ruling?.(screen);
}

/** What each tone of a plate is made, so that it comes out as wanted: the process's gain turned round. */
export function gainTable({ gain }: Ink): Uint8Array | null {
  if (gain.every(([made, seen]) => made === seen)) return null;
  const made = madeFor(gain);
  return Uint8Array.from({ length: 256 }, (_, g) => Math.round(255 * (1 - made(1 - g / 255))));
}
