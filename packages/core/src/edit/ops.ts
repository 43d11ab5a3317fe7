import { z } from "zod";

/** A place of the artwork, as fractions of its width and height; paths may lie outside it. */
const at = z.tuple([z.number().min(-2).max(3), z.number().min(-2).max(3)]).readonly();
const mm = z.number().min(-5000).max(5000);
const size = z.number().min(0.01).max(5000);
const by = z.tuple([mm, mm]).readonly();
const drawnKnot = z.strictObject({ at, in: by.optional(), out: by.optional() });

/**
 * What a hand did to paths. Each names what it acts on by a place on it, so that it finds it again when the paths are
 * made anew a little differently.
 */
export const pathEdit = z.discriminatedUnion(
  "edit",
  [
    /** Paths. */
    z.strictObject({ edit: z.literal("delete"), at }),
    z.strictObject({ edit: z.literal("deleteSmaller"), mm2: z.number().min(0).max(100000) }),
    z.strictObject({ edit: z.literal("move"), at, byMm: by }),
    z.strictObject({ edit: z.literal("box"), at, xMm: mm, yMm: mm, widthMm: size, heightMm: size }),
    z.strictObject({ edit: z.literal("simplify"), at, withinMm: z.number().min(0.001).max(10) }),
    z.strictObject({
      edit: z.literal("combine"),
      at,
      with: at,
      how: z.enum(["join", "subtract", "intersect"]),
    }),
    z.strictObject({ edit: z.literal("fill"), at }),
    /** Points. */
    z.strictObject({ edit: z.literal("movePoint"), at, to: at }),
    z.strictObject({ edit: z.literal("moveHandle"), at, side: z.enum(["in", "out"]), byMm: by }),
    z.strictObject({ edit: z.literal("addPoint"), at }),
    z.strictObject({ edit: z.literal("dropPoint"), at }),
    z.strictObject({ edit: z.literal("point"), at, as: z.enum(["corner", "smooth"]) }),
    z.strictObject({ edit: z.literal("segment"), at, as: z.enum(["straight", "curved"]) }),
    z.strictObject({ edit: z.literal("level"), at, with: at, way: z.enum(["horizontally", "vertically"]) }),
    z.strictObject({ edit: z.literal("split"), at }),
    z.strictObject({ edit: z.literal("joinEnds"), at, with: at }),
    z.strictObject({
      edit: z.literal("rub"),
      along: z.array(at).min(1).max(2000),
      reachMm: z.number().min(0.05).max(50),
    }),
    /** New paths. */
    z.strictObject({
      edit: z.literal("draw"),
      knots: z.array(drawnKnot).min(2).max(2000),
      closed: z.boolean(),
    }),
    z.strictObject({ edit: z.literal("circle"), at, diameterMm: size }),
    z.strictObject({
      edit: z.literal("rectangle"),
      at,
      widthMm: size,
      heightMm: size,
      cornerMm: z.number().min(0).max(1000).default(0),
    }),
    z.strictObject({ edit: z.literal("line"), at, to: at }),
  ],
  {
    error: (issue) =>
      issue.code === "invalid_union"
        ? "delete, deleteSmaller, move, box, simplify, combine, fill, movePoint, moveHandle, addPoint, dropPoint, point, segment, level, split, joinEnds, rub, draw, circle, rectangle, line"
        : undefined,
  },
);
export type PathEdit = z.output<typeof pathEdit>;
export type PathEditOf<E extends PathEdit["edit"]> = Extract<PathEdit, { edit: E }>;

/** Edits of one stage, in the order in which they were made. */
export const pathEdits = z.array(pathEdit).max(3000).default([]);
