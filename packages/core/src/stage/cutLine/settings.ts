import { z } from "zod";
import { closedPathData } from "../../drawing/closedPathData";
import { drawingSize } from "../../drawing/overArtwork";
import { pathEdits } from "../../edit/operations";

const share = z.number().min(-1).max(2);
/** A place of the artwork, as fractions of its width and height; a border may lie outside it. */
const at = z.tuple([share, share]).readonly();

const hexColour = z.string().regex(/^#[0-9a-f]{6}$/i, { error: "#rrggbb" });

/** A hanging hole with its ring, by their diameters. */
const tab = z
  .strictObject({
    holeMm: z.number().min(0.5).max(100).default(3),
    ringMm: z.number().min(1).max(200).default(8),
    at: z.union([z.literal("top"), at], { error: '"top" or [x, y]' }).default("top"),
  })
  .superRefine(({ holeMm, ringMm }, context) => {
    if (ringMm < holeMm + 0.5)
      context.addIssue({ code: "custom", path: ["ringMm"], message: `${holeMm + 0.5} or more` });
  });

const gaps = z.strictObject({
  fillSmallerThanMm2: z.number().min(0).max(100000).default(0),
  keep: z.array(at).max(500).default([]),
  fill: z.array(at).max(500).default([]),
});

const parts = z.strictObject({
  keep: z.enum(["all", "largest"]).default("all"),
  smallestMm2: z.number().min(0).max(100000).default(0),
  bridgeMm: z.number().min(0).max(100).default(0),
});

/** What is printed under the line: the picture cut to it, moved out or in, and what lies under the art there. */
const print = z.strictObject({
  under: z.enum(["nothing", "colour", "edge"]).default("colour"),
  colour: hexColour.default("#ffffff"),
  byMm: z.number().min(-20).max(20).default(0),
});

const pass = z.strictObject({
  name: z.string().trim().min(1).max(40).default("cut"),
  power: z.number().min(0).max(100).default(50),
  speed: z.number().min(0.1).max(5000).default(20),
});

/** Paths that a drawing has of its own, in mm from the upper left of the whole of it, which is so large. */
const drawing = z.strictObject({
  d: closedPathData,
  ...drawingSize,
});

export const cutLineSettings = z.strictObject({
  from: z.enum(["art", "trace", "shape", "drawing"]).default("art"),
  drawing: drawing.optional(),
  alpha: z.int().min(1).max(255).default(128),
  offsetMm: z.number().min(-100).max(100).default(0),
  join: z.enum(["round", "mitre", "bevel"]).default("round"),
  smoothMm: z.number().min(0).max(20).default(0),
  gaps: gaps.default(gaps.parse({})),
  parts: parts.default(parts.parse({})),
  tab: tab.optional(),
  kind: z.enum(["through", "kiss", "score"]).default("through"),
  way: z.enum(["clockwise", "counterclockwise"]).default("clockwise"),
  overcutMm: z.number().min(0).max(10).default(0),
  weedBoxMm: z.number().min(0).max(100).optional(),
  print: print.optional(),
  pass: pass.optional(),
  edits: pathEdits,
});

export type CutLineSettings = z.output<typeof cutLineSettings>;
