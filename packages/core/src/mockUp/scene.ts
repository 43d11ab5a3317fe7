import { type Rgba } from "../raster/types";
import { type Colourway } from "../recolour/colourway";
import { type Lattice } from "./shading";
import { type Surface } from "./surface";
import { type PlacedPrint, type Places } from "./place";
import { type Drawn, type InkKind, type Stuff } from "./thing";

/** A thing that was drawn, or one of the shop's own photographs, ready to have something put on it. */
export type Stage = DrawnStage | PhotoStage;

interface Common {
  /** Size of its picture in its own units: mm of a drawn thing, pixels of a photograph. */
  readonly width: number;
  readonly height: number;
  /** Units to a mm, at the middle of its first area. */
  readonly perMm: number;
  readonly places: Places;
  readonly etched: { readonly colour: string; readonly share: number };
}

export interface DrawnStage extends Common {
  readonly kind: "drawn";
  readonly drawn: Drawn;
  readonly stuff: Stuff;
}

export interface PhotoStage extends Common {
  readonly kind: "photo";
  readonly photo: Rgba;
  readonly surface: Surface;
  readonly light: Lattice;
  /** The light at which its own colour is seen as it is. */
  readonly lit: number;
  /** How much of each pixel is in front of what is printed, 0..255; null where nothing is. */
  readonly front: Uint8Array | null;
}

/** What is to be seen: a thing in a colour with prints on it. */
export interface Scene {
  readonly stage: Stage;
  /** Of a drawn thing, #rrggbb. */
  readonly colour: string;
  readonly ink: InkKind;
  /** What something of one colour is cut from, 0xrrggbb. */
  readonly vinyl: number;
  readonly prints: readonly PlacedPrint[];
  readonly way: Colourway | null;
}
