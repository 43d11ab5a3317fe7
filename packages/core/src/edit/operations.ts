import { z } from "zod";
import { type FurtherTurn } from "../turn/further";
import { type PathOperation, type Press } from "./operation";
import { addPoint } from "./operations/addPoint";
import { align } from "./operations/align";
import { box } from "./operations/box";
import { bridges } from "./operations/bridges";
import { centre } from "./operations/centre";
import { circle } from "./operations/circle";
import { combine } from "./operations/combine";
import { deletePath } from "./operations/delete";
import { deleteSmaller } from "./operations/deleteSmaller";
import { distribute } from "./operations/distribute";
import { draw } from "./operations/draw";
import { dropPoint } from "./operations/dropPoint";
import { fill } from "./operations/fill";
import { joinEnds } from "./operations/joinEnds";
import { level } from "./operations/level";
import { line } from "./operations/line";
import { move } from "./operations/move";
import { moveHandle } from "./operations/moveHandle";
import { movePoint } from "./operations/movePoint";
import { outline } from "./operations/outline";
import { point } from "./operations/point";
import { rectangle } from "./operations/rectangle";
import { rub } from "./operations/rub";
import { segment } from "./operations/segment";
import { simplify } from "./operations/simplify";
import { split } from "./operations/split";
import { text } from "./operations/text";
import { transform } from "./operations/transform";
import { weld } from "./operations/weld";

/** Everything that a hand can do to paths: those on whole paths, on points, and new paths. A new one is a file and an entry. */
const ALL = [
  ...([deletePath, deleteSmaller, move, box, transform, simplify, combine, weld, fill] as const),
  ...([align, distribute, outline, centre, bridges] as const),
  ...([dropPoint, point, level, segment, joinEnds, split, movePoint, moveHandle, addPoint, rub] as const),
  ...([draw, circle, rectangle, line, text] as const),
] as const;

export type PathEdit = z.output<(typeof ALL)[number]["schema"]>;
export type PathEditOf<E extends PathEdit["edit"]> = Extract<PathEdit, { edit: E }>;

const OPERATIONS = new Map(ALL.map((o) => [o.edit, o as unknown as PathOperation]));

/** The operation that an edit is of. */
export const operationOf = ({ edit }: PathEdit): PathOperation => OPERATIONS.get(edit)!;

/**
 * What a hand did to paths. Each names what it acts on by a place on it, so that it finds it again when the paths are
 * made anew a little differently.
 */
export const pathEdit = z.discriminatedUnion(
  "edit",
  ALL.map((o) => o.schema) as unknown as SchemasOf<typeof ALL>,
  {
    error: (issue) => (issue.code === "invalid_union" ? [...OPERATIONS.keys()].join(", ") : undefined),
  },
);

type SchemasOf<T extends readonly { readonly schema: z.ZodObject }[]> = {
  -readonly [K in keyof T]: T[K]["schema"];
};

/** Edits of one stage, in the order in which they were made. */
export const pathEdits = z.array(pathEdit).max(3000).default([]);

/** The edits for an artwork that is turned further: each does the same to the same. */
export const editsTurned = (edits: readonly PathEdit[], by: FurtherTurn): PathEdit[] =>
  edits.map((edit) => operationOf(edit).turned(edit, by) as PathEdit);

/** Fonts that edits set words in. */
export const fontsOf = (edits: readonly PathEdit[]): string[] =>
  edits.flatMap((edit) => (edit.edit === "text" ? [edit.font] : []));

/** What can be pressed where so many paths or points are chosen. */
export const pressesFor = (on: Press["on"], chosen: number): readonly Press<PathEdit>[] =>
  ALL.flatMap((o) => (o.presses ?? []) as readonly Press<PathEdit>[]).filter(
    (press) =>
      press.on === on &&
      chosen > 0 &&
      (press.of === "all" ? chosen >= (press.least ?? 2) : press.of === "each" || press.of === chosen),
  );

/** What a press makes of the places that are chosen. */
export const editsOf = (press: Press<PathEdit>, places: Parameters<Press["make"]>[0]): PathEdit[] =>
  press.of === "each" ? places.map((place) => press.make([place])) : [press.make(places)];
