import { type z } from "zod";
import { line, linePlate, lineSettings } from "./methods/line";
import { scatter, scatterPlate, scatterSettings } from "./methods/scatter";
import { screen, screenPlate, screenSettings } from "./methods/screen";
import { type Method, type PlateDots, type Shared } from "./method";

/** Every way to black and white, in the order in which they are offered. */
export const METHODS = [line, scatter, screen] as unknown as readonly Method[];
/** Their settings, told apart by `method`. */
export const METHOD_SETTINGS = [lineSettings, scatterSettings, screenSettings] as const;
/** How each is written on an ink of a set of films. */
export const PLATE_SETTINGS = [linePlate.settings, scatterPlate.settings, screenPlate.settings] as const;

/** How an ink's tones become dots. */
export type InkScreen = z.output<(typeof PLATE_SETTINGS)[number]>;

/** The methods that make plates. */
export const PLATE_METHODS = METHODS.filter((m): m is Method & { readonly plate: PlateDots } => !!m.plate);

export function methodOf(settings: Shared): Method {
  return METHODS.find((m) => m.id === settings.method)!;
}

/** The method that an ink's dots are made by. */
export const plateMethodOf = (screen: InkScreen): (typeof PLATE_METHODS)[number] =>
  PLATE_METHODS.find(({ plate }) => plate.isOf(screen))!;
