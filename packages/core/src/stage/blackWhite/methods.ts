import { line, lineSettings } from "./methods/line";
import { scatter, scatterSettings } from "./methods/scatter";
import { screen, screenSettings } from "./methods/screen";
import { type Method, type Shared } from "./method";

/** Every way to black and white, in the order in which they are offered. */
export const METHODS = [line, scatter, screen] as unknown as readonly Method[];
/** Their settings, told apart by `method`. */
export const METHOD_SETTINGS = [lineSettings, scatterSettings, screenSettings] as const;

export function methodOf(settings: Shared): Method {
  return METHODS.find((m) => m.id === settings.method)!;
}
