import { type Ink } from "../film/ink";
import { type Gap } from "../clear/gaps";
import { type SetText } from "../edit/operation";
import { type CutGap } from "../cutLine/gaps";
import { type Place } from "../inspect/check";
import { type MockUp } from "../mockUp/result";
import { type PathSet } from "../path/pathSet";
import { type Bits, type Cover, type Gray, type Rgba } from "../raster/types";
import { type Placement } from "./finish";

/*
 * What stages give one another: a small closed set. A result never changes once it is given, carries its own size
 * and place, and is made of plain values and typed arrays, so that it crosses to another thread as it is.
 */

/** What was found out of a background that was taken away. */
export interface Cleared {
  /** Colours of the background that was taken away, sRGB codes. */
  readonly background: readonly (readonly [number, number, number])[];
  /** For each gaps operation: the islands, largest first, and which pixels are theirs. */
  readonly gaps: readonly {
    readonly op: number;
    readonly gaps: readonly Gap[];
    readonly plane: Uint8Array;
  }[];
  /** For each operation on what the ground is seen through: 1 for its pixels. */
  readonly through: readonly Uint8Array[];
}

/** Colours that were laid under the lines of a drawing. */
export interface Coloured {
  readonly areas: readonly number[];
  /** Of the same: how large its area is, in mm2; 0 for one that is lost. */
  readonly mm2: readonly number[];
  /** The areas in few pixels, to know at once which one is pointed at; -1 for none. */
  readonly map: { readonly width: number; readonly height: number; readonly of: Int32Array };
}

/** Colour with transparency. */
export interface Picture extends Placement {
  readonly kind: "picture";
  readonly colour: Rgba;
  /** Null while nothing was taken away. */
  readonly cleared: Cleared | null;
  /** What colours were laid under: of each that was wished, the number of its area, -1 for one that is lost. */
  readonly coloured?: Coloured;
  /**
   * Where it is printed on a garment: the white that lies under it, 0..255, the garment, 0xrrggbb, and how far its inks
   * hide what is under them, 0..1.
   */
  readonly onGarment?: {
    readonly white: Uint8Array;
    readonly garment: number;
    readonly inkOpacity: number;
  };
}

/** Grey, and how much of each pixel is art. */
export interface Tone extends Placement {
  readonly kind: "tone";
  readonly gray: Gray;
  readonly cover: Cover;
  /** The colour, 0xrrggbb, that full black stands for, where the tone stands in for dots seen from afar. */
  readonly ink?: number;
}

/** One bitmap of marks. */
export interface Plate {
  /** Short, fit for a file name. */
  readonly name: string;
  /** What a mark looks like, 0xrrggbb. */
  readonly ink: number;
  readonly bits: Bits;
}

/** What several plates make together, printed one over another on a garment. */
export interface Print {
  /** 0xrrggbb */
  readonly garment: number;
  /** For each plate, in print order. */
  readonly inks: readonly PrintedInk[];
  /** The tone that each plate's dots stand for, 0 = full: of the finish's own pixels. */
  readonly tones: readonly Gray[];
  /** What the print is to look like. */
  readonly art: Rgba;
  /** Of flat colours: greys of what the white under the others is to show of itself, 0 = all; null where that is nothing. */
  readonly whiteSeen: Uint8Array | null;
  /** Why these inks, where they were found. */
  readonly reason: string | null;
  /** The inks as they are set, or were found. */
  readonly chosen: readonly Ink[];
}

export interface PrintedInk {
  readonly opacity: number;
  readonly role: "ink" | "underbase" | "highlight";
  /** Printed whole from half on, without dots for its tones. */
  readonly solid: boolean;
}

/** One or many bitmaps of marks on one piece. */
export interface Plates extends Placement {
  readonly kind: "plates";
  readonly plates: readonly Plate[];
  /** Which pixels are art. */
  readonly cover: Cover;
  /** Threshold that was used, when the method has one. */
  readonly threshold?: number;
  /** Where the plates are inks on a garment. */
  readonly print?: Print;
}

/** Paths in millimetres. */
export interface Paths extends Placement {
  readonly kind: "paths";
  readonly sets: readonly PathSet[];
  /** Numbers of the hand's edits that found nothing to act on. */
  readonly missed?: readonly number[];
  /** Words that were set by hand, and where. */
  readonly texts?: readonly SetText[];
  /** What was too small to be followed. */
  readonly dropped?: {
    readonly specks: number;
    readonly pinholes: number;
    /** The first of them. */
    readonly places?: readonly Place[];
  };
  /** What a cut line was made round. */
  readonly cut?: {
    readonly gaps: readonly CutGap[];
    /** Middle of the hole of the tab, in mm. */
    readonly tabAt: readonly [number, number] | null;
    /** The picture that is printed to the line. */
    readonly art: Rgba;
  };
}

/** Where pieces lie on a sheet: the middle of each, in mm from its top left, and its turn in degrees. */
export interface Layout extends Placement {
  readonly kind: "layout";
  /** x, y, turn for each piece. */
  readonly places: Float64Array;
}

/** What a machine is sent. */
export interface Program extends Placement {
  readonly kind: "program";
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

export type Result = Picture | Tone | Plates | Paths | MockUp | Layout | Program;
export type ResultKind = Result["kind"];
export type ResultOf<K extends ResultKind> = Extract<Result, { kind: K }>;

/** The size in which a result is counted where it holds nothing large. */
const LEAST_BYTES = 1024;

/** Every array of numbers in a result, in a fixed order. */
export function arraysOf(result: Result): ArrayBufferView[] {
  const found: ArrayBufferView[] = [];
  const visit = (value: unknown): void => {
    if (ArrayBuffer.isView(value)) found.push(value);
    else if (value && typeof value === "object") for (const inner of Object.values(value)) visit(inner);
  };
  visit(result);
  return found;
}

/**
 * Bytes that a result holds by itself.
 * @param taken  what it was made from; arrays that it only hands on are theirs
 */
export function bytesOf(result: Result, taken: readonly Result[] = []): number {
  const known = new Set(taken.flatMap((t) => arraysOf(t).map((a) => a.buffer)));
  let bytes = LEAST_BYTES;
  for (const { buffer } of arraysOf(result)) {
    if (known.has(buffer)) continue;
    known.add(buffer);
    bytes += buffer.byteLength;
  }
  return bytes;
}

/** The same result with every array replaced, such as by one in shared memory. */
export function mapArrays<R extends Result>(
  result: R,
  change: (array: ArrayBufferView) => ArrayBufferView,
): R {
  const walk = (value: unknown): unknown => {
    if (ArrayBuffer.isView(value)) return change(value);
    if (Array.isArray(value)) return value.map(walk);
    if (value && typeof value === "object")
      return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, walk(inner)]));
    return value;
  };
  return walk(result) as R;
}

/** A result as the kind that it must be here. @throws Error when it is another */
export function as<K extends ResultKind>(result: Result, kind: K): ResultOf<K> {
  if (result.kind !== kind) throw new Error(`${kind} was wanted, not ${result.kind}`);
  return result as ResultOf<K>;
}
