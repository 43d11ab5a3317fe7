import { measuredArea, type PhotoArea } from "../../mockUp/photoArea";
import { type Places } from "../../mockUp/place";
import { photoPlaces } from "../../mockUp/stageOf";
import { drawnThing } from "../../mockUp/things";
import { type MockUpSettings } from "./settings";

/** Where something can be put on a thing, known without its pixels. */
export interface Layout {
  readonly places: Places;
  /** Size of its picture in its own units: mm of a drawn thing, pixels of a photograph. */
  readonly width: number;
  readonly height: number;
  /** Units to a mm. */
  readonly perMm: number;
}

/** @returns null where a photograph's places make no sense */
export function layoutOf({ thing, size }: Pick<MockUpSettings, "thing" | "size">): Layout | null {
  if (typeof thing === "string") {
    const drawn = drawnThing(thing, size);
    return { places: drawn, width: drawn.widthMm, height: drawn.heightMm, perMm: 1 };
  }
  const [width, height] = [thing.widthPx, thing.heightPx];
  const found = measuredArea(thing.area as PhotoArea, { width, height });
  return found && { places: photoPlaces(found.area), width, height, perMm: found.perMm };
}
