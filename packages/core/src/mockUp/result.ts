import { type Placement } from "../result/finish";
import { type Rgba } from "../raster/types";
import { type Art } from "./layer";
import { type PrintWish } from "./place";
import { type PhotoArea } from "./photoArea";
import { type Lattice } from "./shading";
import { type InkKind } from "./thing";
import { type ThingId } from "./things";

/** A thing that ships. */
export interface DrawnChoice {
  readonly kind: "drawn";
  readonly id: ThingId;
  readonly size: string;
}

/** One of the shop's own photographs, and what was found out of it. */
export interface PhotoChoice {
  readonly kind: "photo";
  readonly photo: Rgba;
  readonly area: PhotoArea;
  /** How bright it is everywhere, and where its own colour is seen as it is. */
  readonly light: Lattice;
  readonly lit: number;
  /** How much of each pixel is in front of what is printed, 0..255; null where nothing is. */
  readonly front: Uint8Array | null;
}

/** What is put on a thing, and how: seen only when it is looked at, as large as it is looked at. */
export interface MockUp extends Placement {
  readonly kind: "mockUp";
  readonly art: Art;
  readonly thing: DrawnChoice | PhotoChoice;
  /** Of a drawn thing, #rrggbb. */
  readonly colour: string;
  readonly ink: InkKind;
  /** What something of one colour is cut from, 0xrrggbb. */
  readonly vinyl: number;
  /** What an etched mark comes to, #rrggbb; the thing's own when left out. */
  readonly mark?: string;
  readonly prints: readonly PrintWish[];
}
