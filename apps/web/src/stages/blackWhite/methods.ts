import { type BlackWhiteSettings } from "@hardline/core/stage/blackWhite/settings";
import { type MethodPanel, type PlatePanel } from "./methodPanel";
import { LineControls } from "./methods/LineControls";
import { ScatterControls } from "./methods/ScatterControls";
import { ScatterOfInk } from "./methods/ScatterOfInk";
import { ScreenControls } from "./methods/ScreenControls";
import { ScreenOfInk } from "./methods/ScreenOfInk";

/** The controls of every way to black and white. */
export const METHOD_PANELS = {
  line: LineControls,
  scatter: ScatterControls,
  screen: ScreenControls,
} as unknown as Record<BlackWhiteSettings["method"], MethodPanel>;

/** The controls of an ink's dots; a method that has none is not here. */
export const PLATE_PANELS = {
  scatter: ScatterOfInk,
  screen: ScreenOfInk,
} as unknown as Partial<Record<string, PlatePanel>>;
