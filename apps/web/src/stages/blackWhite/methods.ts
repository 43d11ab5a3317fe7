import { type BlackWhiteSettings } from "@hardline/core/stage/blackWhite/settings";
import { type MethodPanel } from "./methodPanel";
import { LineControls } from "./methods/LineControls";
import { ScatterControls } from "./methods/ScatterControls";
import { ScreenControls } from "./methods/ScreenControls";

/** The controls of every way to black and white. */
export const METHOD_PANELS = {
  line: LineControls,
  scatter: ScatterControls,
  screen: ScreenControls,
} as unknown as Record<BlackWhiteSettings["method"], MethodPanel>;
