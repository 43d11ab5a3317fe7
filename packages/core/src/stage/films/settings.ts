import { z } from "zod";
import { MOST_INKS } from "../../film/clusters";
import { gainPoints } from "../../dots/dotSettings";
import { PLATE_METHODS, PLATE_SETTINGS } from "../../dots/methods";
import { LEAST_DPI, MOST_DPI } from "../../maths/units";

const hex = z.string().regex(/^#[0-9a-f]{6}$/i, { error: "a colour as #rrggbb" });
const share = z.number().min(0).max(1);

const written = PLATE_METHODS.map((m) => m.plate.written).reverse();
const screen = z.union(PLATE_SETTINGS, {
  error: `${written.slice(0, -1).join(", ")} or ${written.at(-1)}`,
});

export const inkSettings = z.strictObject({
  name: z
    .string()
    .trim()
    .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,23}$/u, { error: "1 to 24 letters, digits, blanks, . _ or -" }),
  colour: hex,
  opacity: share.default(1),
  role: z.enum(["ink", "underbase", "highlight"]).default("ink"),
  spreadMm: z.number().min(-5).max(5).default(0),
  strength: share.default(1),
  under: share.default(1),
  screen: screen.optional(),
  gain: gainPoints.default([
    [0, 0],
    [1, 1],
  ]),
  meshPerCm: z.number().min(5).max(200).optional(),
  flat: z.boolean().default(false),
  locked: z.boolean().default(false),
});

/** The most films of one art: inks, and a white under and over them. */
const MOST_FILMS = 12;

const inks = z
  .array(inkSettings)
  .min(1)
  .max(MOST_FILMS)
  .superRefine((list, context) => {
    list.forEach(({ name }, k) => {
      if (list.findIndex((other) => fileWord(other.name) === fileWord(name)) < k)
        context.addIssue({ code: "custom", path: [k, "name"], message: "a name that no other ink has" });
    });
  });

/** A film's name as files are named: small letters, digits and hyphens. */
export const fileWord = (name: string): string =>
  name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "") || "ink";

export const knockOutSettings = z.strictObject({
  tolerance: z.number().min(0).max(60).default(4),
  softness: z.number().min(0).max(60).default(0),
});

export const filmsSettings = z.strictObject({
  separate: z.enum(["flat", "tonal", "process", "black"]).default("flat"),
  garment: hex.default("#ffffff"),
  inks: z
    .union([z.literal("auto"), z.number().int().min(1).max(MOST_INKS), inks], {
      error: `"auto", a number of inks from 1 to ${MOST_INKS}, or a list of up to ${MOST_FILMS} inks`,
    })
    .default("auto"),
  trapMm: z.number().min(0).max(5).default(0),
  knockOut: knockOutSettings.optional(),
  /** Of one black: greys as shares of white at which nothing and all is printed. */
  levels: z.union([z.literal("found"), z.strictObject({ bare: share, full: share })]).default("found"),
  blackGeneration: share.default(0.8),
  /** Percent of all inks together, at most. */
  totalInk: z.number().min(100).max(1200).default(300),
  highlightFrom: z.number().min(0).max(0.95).default(0.6),
  /** What the film printer runs at, where it is finer than the finish: a whole multiple of it. */
  printerDotsPerInch: z.number().min(LEAST_DPI).max(MOST_DPI).optional(),
  mirror: z.boolean().default(false),
  marks: z.boolean().default(true),
  /** How thick inks lie where they are full, in thousandths of a millimetre, wet. */
  depositUm: z.number().min(1).max(400).default(25),
});

export type FilmsSettings = z.output<typeof filmsSettings>;
export type InkSettings = z.output<typeof inkSettings>;
