import { z } from "zod";
import { THING_IDS } from "../../mockUp/things";
import { hexColour } from "../../recolour/change";
import { routeErrorOf } from "../../settings/errors";
import { known } from "../../settings/known";
import { clearOp, type ClearOp } from "../clear/settings";

/** Fractions of a photograph's width and height; a hand may go past its edge. */
const at = z.tuple([z.number().min(-1).max(2), z.number().min(-1).max(2)]);
const mm = z.number().min(1).max(20000);

const scale = z.strictObject({ from: at, to: at, mm });
const measured = { widthMm: mm.optional(), heightMm: mm.optional(), scale: scale.optional() };

const told = (area: { widthMm?: number; heightMm?: number; scale?: unknown }) =>
  area.widthMm !== undefined || area.heightMm !== undefined || area.scale !== undefined;
const HOW_LARGE = { error: "widthMm, heightMm, or a scale: how large the area is" };

const area = z.union(
  [
    z
      .strictObject({ kind: z.literal("flat"), corners: z.array(at).length(4), ...measured })
      .refine(told, HOW_LARGE),
    z.strictObject({
      kind: z.literal("round"),
      upper: z.array(at).length(3),
      lower: z.array(at).length(3),
      diameterMm: mm,
    }),
    z
      .strictObject({ kind: z.literal("cloth"), points: z.array(at).length(9), ...measured })
      .refine(told, HOW_LARGE),
  ],
  {
    error:
      'kind "flat" with four corners, "round" with an upper and a lower curve of three places and diameterMm, or "cloth" with nine points; flat and cloth with widthMm, heightMm or a scale',
  },
);

/** A photograph of a thing, and how it is to be read. */
export const photoThing = z.strictObject({
  /** SHA-256 of its file, and its size the right way up. */
  photo: z.string().regex(/^[0-9a-f]{64}$/, { error: "the SHA-256 of a photograph's file" }),
  widthPx: z.number().int().min(1).max(30000),
  heightPx: z.number().int().min(1).max(30000),
  name: z.string().trim().min(1).max(60).default("Own photograph"),
  area,
  /** The thing's own colour in even light; found from its brightest places when left out. */
  cloth: hexColour.optional(),
  /** Structure finer than this is no fold. */
  smoothMm: z.number().min(0).max(50).default(3),
  /** What these take away of the photograph is in front of what is printed. */
  front: z.array(known<ClearOp>(clearOp)).max(40).default([]),
});

const print = z.strictObject({
  at: z.union(
    [
      z.string().trim().min(1).max(60),
      z.tuple([z.number().min(-20000).max(20000), z.number().min(-20000).max(20000)]),
    ],
    {
      error: "the name of a usual place, or [mm to the right of the middle, mm below]",
    },
  ),
  area: z.string().max(60).optional(),
  turn: z.number().min(-360).max(360).default(0),
  scale: z.number().min(0.02).max(20).default(1),
});

export const mockUpSettings = z.strictObject({
  thing: z
    .union([z.enum(THING_IDS), photoThing], {
      error: (issue) =>
        typeof issue.input === "object"
          ? undefined
          : `${THING_IDS.join(", ")}, or a photograph of the shop's own`,
    })
    .default("t-shirt-front"),
  /** Of a thing that has several; its usual one when left out, or where it has none of that name. */
  size: z.string().max(20).default(""),
  /** Of the thing; "own": of cloth the garment's that the art was made for, else its usual one. */
  colour: z.union([z.literal("own"), hexColour], { error: '"own", or a colour as #rrggbb' }).default("own"),
  /** How what is put on it changes it; "own": as is usual for the thing. */
  ink: z.enum(["own", "onTop", "inCloth", "etched"]).default("own"),
  /** What something of one colour is cut from or printed in. */
  vinyl: hexColour.default("#1d1f22"),
  /** What an etched mark comes to; the material's own when left out. */
  mark: hexColour.optional(),
  prints: z
    .array(print)
    .min(1)
    .max(12)
    .default([{ at: "usual", turn: 0, scale: 1 }]),
  /** Of mockup.png and of each picture on the contact sheet's pages. */
  widthPx: z.number().int().min(200).max(6000).default(1600),
  /** What stands on the contact sheet besides the thing itself: every colourway times these. */
  sheet: z
    .strictObject({
      things: z.array(z.enum(THING_IDS)).max(20).default([]),
      sizes: z.array(z.string().min(1).max(20)).max(8).default([]),
    })
    .default({ things: [], sizes: [] }),
});

export type MockUpSettings = z.output<typeof mockUpSettings>;
export type PhotoThing = z.output<typeof photoThing>;

/** @throws RouteError that names the setting, the value and what is allowed */
export function readPhotoThing(json: unknown): PhotoThing {
  const read = photoThing.safeParse(json);
  if (!read.success) throw routeErrorOf("thing", read.error, json);
  return read.data;
}
