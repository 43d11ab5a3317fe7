import { z } from "zod";
import { markEntry } from "../machine/markEntry";
import { RouteError, routeErrorOf } from "../settings/errors";
import { type NestStock, type Placing } from "./arrangement";
import { markPlaces, markZones } from "./marks";

export const SHEET_FORMAT = "hard-line-sheet";

const mm = (least: number, most: number) => z.number().min(least).max(most);

/** Where a copy was put by hand. */
const keptPlace = z.strictObject({
  piece: z.int().min(0).max(199),
  sheet: z.int().min(0).max(199),
  xMm: mm(-5000, 100000),
  yMm: mm(-5000, 100000),
  turnDegrees: z.number().min(-360).max(360).default(0),
  mirrored: z.boolean().default(false),
});

/** Copies on all sheets of one arrangement, at most. */
export const MOST_PLACINGS = 10000;

/** Of each route, the revision whose outline was arranged. */
const revisions = z
  .record(z.string().regex(/^\d{1,18}$/), z.int().min(1).max(2147483647))
  .refine((all) => Object.keys(all).length <= 200, { error: "at most 200 routes" });

/** What of a sheet is set, whatever its pieces are named by. */
export const sheetSettings = {
  stock: z.strictObject({
    widthMm: mm(20, 5000),
    /** Of a roll: how much of it is taken at once. */
    heightMm: mm(20, 20000),
    /** Sheets that there are; on a roll one after another. */
    sheets: z.int().min(1).max(200).default(50),
    roll: z.boolean().default(false),
  }),
  marginMm: mm(0, 500).default(10),
  spacingMm: mm(0, 200).default(2),
  /** By quarters, only upside down, or as they are, for the grain. */
  turn: z.enum(["free", "half", "none"]).default("free"),
  mirror: z.boolean().default(false),
  /** Rectangles that touch share one line. */
  commonLines: z.boolean().default(false),
  marks: z.union([z.boolean(), markEntry], { error: "true, false, or what the marks are" }).default(false),
  /** How far the print goes on beyond the cut line. */
  bleedMm: mm(0, 20).default(0),
  /** Arrangements that are tried. */
  rounds: z.int().min(0).max(5000).default(40),
  kept: z.array(keptPlace).max(5000).default([]),
};

/** A sheet whose pieces are files: a route and an artwork each. */
const sheetFile = z.strictObject({
  format: z.literal(SHEET_FORMAT),
  version: z.literal(1),
  name: z.string().trim().min(1).max(120).default("Sheet"),
  ...sheetSettings,
  pieces: z
    .array(
      z.strictObject({
        route: z.string().min(1).max(500),
        artwork: z.string().min(1).max(500),
        count: z.int().min(1).max(10000).default(1),
      }),
    )
    .min(1)
    .max(200),
});

/** A sheet whose pieces are routes of tickets. */
const sheetBody = z.strictObject({
  ...sheetSettings,
  /** The shop's machine that it is for; its entry says what the marks are and what it reaches. */
  machine: z.string().max(60).optional(),
  pieces: z
    .array(z.strictObject({ routeId: z.string().regex(/^\d{1,18}$/), count: z.int().min(1).max(10000) }))
    .max(200)
    .default([]),
});

export type SheetFile = z.output<typeof sheetFile>;
export type SheetBody = z.output<typeof sheetBody>;
export type SheetSettings = Omit<SheetBody, "pieces" | "machine">;

const read =
  <T>(schema: z.ZodType<T>) =>
  (json: unknown): T => {
    const found = schema.safeParse(json);
    if (!found.success) throw routeErrorOf("sheet", found.error, json);
    return found.data;
  };

/** @throws RouteError that names the setting, the value and what is allowed */
export const readSheet: (json: unknown) => SheetFile = read(sheetFile);
/** @throws RouteError that names the setting, the value and what is allowed */
export const readSheetBody: (json: unknown) => SheetBody = read(sheetBody);

const isNumber =
  (least: number, most: number) =>
  (v: unknown): boolean =>
    typeof v === "number" && v >= least && v <= most;
const isCount = (most: number) => (v: unknown) => Number.isInteger(v) && isNumber(0, most)(v);

/** What each field of a placing may be. */
const PLACING: readonly (readonly [field: keyof Placing, is: (v: unknown) => boolean, allowed: string])[] = [
  ["piece", isCount(199), "a whole number 0 to 199"],
  ["sheet", isCount(199), "a whole number 0 to 199"],
  ["xMm", isNumber(-5000, 100000), "-5000 to 100000"],
  ["yMm", isNumber(-5000, 100000), "-5000 to 100000"],
  ["turnDegrees", isNumber(-360, 360), "-360 to 360"],
  ["mirrored", (v) => typeof v === "boolean", "true or false"],
  ["kept", (v) => v === undefined || v === true, "true, or left out"],
];

/**
 * Where copies lie, of the pieces of a sheet. In plain code: there may be tens of thousands.
 * @throws RouteError that names the copy, its field, the value and what is allowed
 */
export function readPlacings(json: unknown): Placing[] {
  const refuse = (setting: string, value: unknown, allowed: string): never => {
    throw new RouteError("sheet", setting, value, allowed);
  };
  if (!Array.isArray(json) || json.length > MOST_PLACINGS)
    return refuse("placings", Array.isArray(json) ? json.length : json, `a list of ${MOST_PLACINGS} or less`);
  for (let k = 0; k < json.length; k++) {
    const at = json[k] as Record<string, unknown> | null;
    if (typeof at !== "object" || at === null || Array.isArray(at))
      return refuse(`placings[${k}]`, at, "an object that says where a copy lies");
    let known = 0;
    for (const [field, is, allowed] of PLACING) {
      const value = Object.hasOwn(at, field) ? at[field] : undefined;
      if (!is(value)) return refuse(`placings[${k}].${field}`, value, allowed);
      if (value !== undefined) known++;
    }
    if (Object.keys(at).length !== known)
      return refuse(`placings[${k}]`, Object.keys(at), PLACING.map(([field]) => field).join(", "));
  }
  return json as Placing[];
}

/** @throws RouteError that names the setting, the value and what is allowed */
export const readRevisions: (json: unknown) => Record<string, number> = read(revisions);

/**
 * Holds copies against the pieces that they are of.
 * @throws RouteError where one is of a piece that the sheet does not have
 */
export function checkCopies(what: string, copies: readonly Pick<Placing, "piece">[], pieces: number): void {
  const k = copies.findIndex(({ piece }) => piece >= pieces);
  if (k >= 0)
    throw new RouteError(
      "sheet",
      `${what}[${k}].piece`,
      copies[k].piece,
      `0 to ${pieces - 1}, the sheet's own`,
    );
}

/** What a machine leaves free at the edges of a sheet that lies in the upper left of its bed. */
export interface SheetReach {
  readonly leftMm: number;
  readonly topMm: number;
  readonly rightMm: number;
  readonly bottomMm: number;
}
const ALL: SheetReach = { leftMm: 0, topMm: 0, rightMm: 0, bottomMm: 0 };

/** The marks of a sheet; null for none. */
export const marksOf = ({ marks }: Pick<SheetSettings, "marks">) =>
  marks === false ? null : marks === true ? markEntry.parse({}) : marks;

/** Degrees that pieces may be turned by. */
export const turnsOf = ({ turn }: Pick<SheetSettings, "turn">): readonly number[] =>
  turn === "free" ? [0, 90, 180, 270] : turn === "half" ? [0, 180] : [0];

/** Nothing may overlap a neighbour, nor what is printed beyond its line. */
export const spacingOf = ({ spacingMm, bleedMm }: Pick<SheetSettings, "spacingMm" | "bleedMm">): number =>
  Math.max(spacingMm, 2 * bleedMm);

/** What a sheet leaves for pieces: without margins, what the machine does not reach, and its marks. */
export function stockOf(sheet: SheetSettings, reach: SheetReach = ALL): NestStock {
  const { stock, marginMm, bleedMm } = sheet;
  const [left, right] = [reach.leftMm, reach.rightMm].map((v) => Math.max(marginMm, v));
  const [top, bottom] = [reach.topMm, reach.bottomMm].map((v) => Math.max(marginMm, v));
  const room = {
    ...{ x: left, y: top },
    width: Math.max(0, stock.widthMm - left - right),
    height: Math.max(0, stock.heightMm - top - bottom),
  };
  const entry = marksOf(sheet);
  const zones = entry ? markZones(markPlaces(entry, stock), entry) : [];
  const blocked = zones.map(({ x, y, width, height }) => ({
    ...{ x: x - bleedMm, y: y - bleedMm },
    ...{ width: width + 2 * bleedMm, height: height + 2 * bleedMm },
  }));
  return { room, blocked, sheets: stock.sheets };
}
