import { type BlackWhiteSettings } from "@hardline/core/stage/blackWhite/settings";
import { defineFace } from "../face";
import { BlackWhitePanel } from "./BlackWhitePanel";

export const blackWhiteFace = defineFace({
  id: "blackWhite",
  Panel: BlackWhitePanel,
  // What looks most like the material.
  backing: (settings) => ((settings as BlackWhiteSettings).material === "burns-pale" ? "slate" : "white"),
});
