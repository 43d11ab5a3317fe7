import { z } from "zod";
import { type Work } from "../maths/work";
import { onPiece, type Frame } from "../path/frame";
import { type KnotPath } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { type FurtherTurn } from "../turn/further";
import { type Point } from "../fit/line";
import { nearestKnot, nearestOnPaths, shapeOf, type AtKnot, type OnPath } from "./find";

/** A place of the artwork, as fractions of its width and height; paths may lie outside it. */
export const at = z.tuple([z.number().min(-2).max(3), z.number().min(-2).max(3)]).readonly();
const mm = z.number().min(-5000).max(5000);
/** An offset in mm. */
export const byMm = z.tuple([mm, mm]).readonly();
export const placeMm = mm;
export const sizeMm = z.number().min(0.01).max(5000);

type At = z.output<typeof at>;

/** What an edit names is looked for no further off than this, in mm: made anew, a path lies a little elsewhere. */
const REACH_MM = 0.6;

/** The piece that paths lie on. */
export interface OnPieceOf {
  readonly finish: { readonly widthMm: number; readonly heightMm: number };
  readonly frame: Frame;
}

/** Words that were set, and where: for checks, and for who presses on them. */
export interface SetText {
  /** Number of the edit. */
  readonly edit: number;
  readonly text: string;
  /** Box of their outlines, in mm of the piece; null where they have none. */
  readonly box: Rect | null;
  /** Height of a capital as it came to be. */
  readonly capitalMm: number;
  /** They have the room that they are to fit into. */
  readonly fits: boolean;
  /** Letters that the font has not. */
  readonly missing: readonly string[];
}

/** Paths of all sets in one list, each with the number of its set, and what an operation asks of them. */
export class Bench {
  readonly paths: KnotPath[] = [];
  readonly set: number[] = [];
  /** Words that were set. */
  readonly texts: SetText[] = [];
  /** Number of the edit that is made. */
  edit = 0;

  /**
   * @param home   number of the set that closed paths which are drawn go to
   * @param drawn  number of the set that open lines which are drawn go to
   */
  constructor(
    readonly on: OnPieceOf,
    readonly home: number,
    private readonly drawn: number,
  ) {}

  readonly mm = (place: At): Point => onPiece(place, this.on);
  readonly pathAt = (place: At): OnPath | null => nearestOnPaths(this.paths, this.mm(place), REACH_MM);
  readonly knotAt = (place: At): AtKnot | null => nearestKnot(this.paths, this.mm(place), REACH_MM);

  /**
   * The shape that a place lies on the line of, by the numbers of its outlines: the one found first, then, where that one
   * bounds something filled, the holes in it. What lies in a hole is a shape of its own.
   *
   * @param without  a path that is taken for not being there: two shapes that lie over each other are seen one by one
   */
  shapeAt(place: At, without = -1): readonly number[] {
    const found = this.pathAt(place)?.path;
    if (found === undefined) return [];
    return shapeOf(this.paths, found, (k) => k !== without && this.set[k] === this.set[found]);
  }

  /** Changes every outline of a shape. @returns whether there was one */
  changeAll(shape: readonly number[], to: (path: KnotPath) => KnotPath): boolean {
    for (const k of shape) this.replace(k, [to(this.paths[k])]);
    return shape.length > 0;
  }

  put(path: KnotPath, set: number): true {
    this.paths.push(path);
    this.set.push(set);
    return true;
  }

  /** Closed paths of a set. */
  closedOf = (set: number): readonly KnotPath[] =>
    this.paths.filter((path, k) => path.closed && this.set[k] === set);

  get finish(): OnPieceOf["finish"] {
    return this.on.finish;
  }

  /** A line to be run along, closed or not. */
  drawLine(path: KnotPath): true {
    return this.put(path, this.drawn);
  }

  draw(path: KnotPath): true {
    return this.put(path, path.closed ? this.home : this.drawn);
  }

  tellWords(words: Omit<SetText, "edit">): void {
    this.texts.push({ edit: this.edit, ...words });
  }

  replace(at: number, by: readonly KnotPath[]): true {
    const of = this.set[at];
    this.paths.splice(at, 1, ...by);
    this.set.splice(at, 1, ...by.map(() => of));
    return true;
  }

  /** Changes the path that was found. @returns whether there was one, and a change of it */
  change<F extends { readonly path: number }>(
    found: F | null,
    to: (path: KnotPath, found: F) => KnotPath | null,
  ): boolean {
    const made = found && to(this.paths[found.path], found);
    return !!made && this.replace(found.path, [made]);
  }
}

/** Something to press where paths or points are chosen, which makes an edit of the places that are. */
export interface Press<E = object> {
  readonly words: string;
  readonly on: "paths" | "points";
  /** How many must be chosen; "each" makes an edit of each, "all" one of all, of two or more. */
  readonly of: "each" | "all" | 1 | 2;
  /** Of all: so many at least. */
  readonly least?: number;
  /** Presses of one group stand together. */
  readonly group?: string;
  readonly make: (places: readonly At[]) => E;
  /** What was chosen is still there afterwards. */
  readonly keeps?: true;
  /** A key that does the same. */
  readonly key?: string;
}

/** One thing that a hand does to paths: what is kept of it, what it does, and how it turns with the artwork. */
export interface PathOperation<Schema extends z.ZodObject = z.ZodObject> {
  readonly edit: string;
  readonly schema: Schema;
  /** @returns whether it found what it acts on */
  readonly act: (bench: Bench, edit: z.output<Schema>) => boolean | Work<boolean>;
  /** The edit for an artwork that is turned further, so that it does the same to the same. */
  readonly turned: (edit: z.output<Schema>, by: FurtherTurn) => z.output<Schema>;
  readonly presses?: readonly Press<z.input<Schema>>[];
}

export const definePathOperation = <Schema extends z.ZodObject>(
  schema: Schema,
  operation: Omit<PathOperation<NoInfer<Schema>>, "schema" | "edit">,
): PathOperation<Schema> => ({
  schema,
  edit: (schema.shape.edit as z.ZodLiteral<string>).value,
  ...operation,
});
