import { type KnotPath } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { type Point, type Surface } from "./surface";

/** What a thing is made of: how its surface looks, and how a print lies on it. */
export type Stuff = "cloth" | "glazed" | "steel" | "wood" | "leather" | "brass" | "painted" | "paper";

/** How what is put on a thing changes it. */
export type InkKind =
  /** It lies on the surface and hides what is under it: screen print, transfer, vinyl. */
  | "onTop"
  /** It dyes the cloth, whose colour shows through all of it. */
  | "inCloth"
  /** The surface itself is changed: burned, engraved or frosted. */
  | "etched";

/** A part of a thing where something can be put. All of it in mm from the area's origin, as if laid flat. */
export interface PrintArea {
  readonly name: string;
  /** What may be printed: as far as it is allowed to reach. */
  readonly limits: Rect;
  /** The thing's own edges about it. */
  readonly edges: Rect;
  /** What distances downwards are measured from: "the collar", "the top edge". */
  readonly below: string;
  /** Lines over which nothing should be printed. */
  readonly seams: readonly (readonly Point[])[];
  /** Where it is seen in the picture; what is round may be seen twice, from two sides. */
  readonly surfaces: readonly Surface[];
}

/** A usual place for a print: the middle of its upper edge, in mm from an area's origin. */
export interface UsualPlace {
  readonly name: string;
  readonly area: string;
  readonly at: Point;
}

/** One piece of a thing's drawing, in mm of its picture. */
export interface Part {
  readonly path: KnotPath | readonly KnotPath[];
  /** A colour of its own, #rrggbb; the thing's when left out. */
  readonly colour?: string;
  /** Times its light. */
  readonly shade?: number;
  /** Drawn under the body, and not lit by its folds. */
  readonly behind?: true;
}

/** A soft ridge along a line: light on one side, dark on the other, fading out at both ends. */
export interface Fold {
  readonly from: Point;
  readonly to: Point;
  readonly widthMm: number;
  /** How deep, as a share of the light. */
  readonly depth: number;
}

/** A thing of one size, drawn. */
export interface Drawn {
  readonly widthMm: number;
  readonly heightMm: number;
  /** Painted one after another; the body is the first that is not behind. */
  readonly parts: readonly Part[];
  /** Thin lines that are darker: seams and edges. */
  readonly lines: readonly { readonly path: KnotPath; readonly widthMm: number; readonly shade: number }[];
  readonly folds: readonly Fold[];
  /** How far from its outline a thing turns away from the light, in mm, and how dark it is there. */
  readonly rounded?: { readonly mm: number; readonly shade: number };
  /** Light on it at a place of the picture, 1 where it is even, for what is round. */
  readonly light?: (x: number, y: number) => number;
  /** Shine over everything at a place, 0..1 of white. */
  readonly shine?: (x: number, y: number) => number;
  readonly areas: readonly PrintArea[];
  readonly places: readonly UsualPlace[];
}

/** A thing that something is put on, with its true measures. */
export interface Thing<Id extends string = string> {
  readonly id: Id;
  readonly title: string;
  readonly group: "Garments" | "Cloths and bags" | "Cups and bottles" | "Small things" | "Signs";
  readonly stuff: Stuff;
  /** Its usual colour, #rrggbb. */
  readonly colour: string;
  readonly ink: InkKind;
  /** Sizes by name, the first one usual; empty where there is only one. */
  readonly sizes: readonly string[];
  /** Of what is etched: the colour that it comes to, #rrggbb, and how wholly, 0..1. */
  readonly etched: { readonly colour: string; readonly share: number };
  readonly draw: (size: string) => Drawn;
}

export const defineThing = <const Id extends string>(thing: Thing<Id>): Thing<Id> => thing;

/** What a burn, an engraving or frost looks like on each stuff. */
export const ETCHED: Record<Stuff, Thing["etched"]> = {
  cloth: { colour: "#8a7a66", share: 0.7 },
  glazed: { colour: "#e9eaea", share: 0.75 },
  steel: { colour: "#e4e6e7", share: 0.8 },
  wood: { colour: "#3d2716", share: 0.9 },
  leather: { colour: "#2e1a10", share: 0.88 },
  brass: { colour: "#3b3020", share: 0.85 },
  painted: { colour: "#d8d2c2", share: 0.9 },
  paper: { colour: "#6b4a2c", share: 0.85 },
};
