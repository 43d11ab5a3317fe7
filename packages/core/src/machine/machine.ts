import { z } from "zod";
import { routeErrorOf } from "../route/errors";
import { materialKey } from "../route/route";
import { type Rect } from "../raster/types";

const mm = (least: number, most: number) => z.number().min(least).max(most);
const speed = z.number().min(0.1).max(5000);

const margins = z.strictObject({
  leftMm: mm(0, 10000).default(0),
  topMm: mm(0, 10000).default(0),
  rightMm: mm(0, 10000).default(0),
  bottomMm: mm(0, 10000).default(0),
});

const common = {
  key: materialKey,
  name: z.string().trim().min(1).max(60),
  bed: z.strictObject({ widthMm: mm(20, 100000), heightMm: mm(20, 100000) }),
  /** What of the bed the head does not reach. */
  margins: margins.default(margins.parse({})),
  /** With the beam off, or the knife up. */
  travelMmPerS: speed,
  accelMmPerS2: z.number().min(1).max(100000),
  /** How far a rounded corner may leave the true one: what decides how fast a bend is taken. */
  cornerMm: mm(0.0001, 1).default(0.01),
};

/** What register marks look like and where the machine's eye expects them. */
export const markEntry = z.strictObject({
  shape: z.enum(["disc", "square", "cross"]).default("disc"),
  sizeMm: mm(1, 30).default(6),
  /** Round the sheet: four corners, and then the middles of the long sides. */
  count: z.union([z.literal(3), z.literal(4), z.literal(6)], { error: "3, 4, 6" }).default(4),
  /** From the edge of the sheet to the middle of a mark. */
  insetMm: mm(1, 200).default(12),
  /** Nothing else may be printed so near to a mark's edge. */
  clearMm: mm(0, 50).default(3),
});
export type MarkEntry = z.output<typeof markEntry>;

export const bedLaser = z.strictObject({
  ...common,
  kind: z.literal("bed-laser"),
  /** Line pitches that it has, as dots to an inch. */
  dotsPerInch: z.array(z.number().min(10).max(4800)).min(1).max(12),
  burnMmPerS: speed,
  scoreMmPerS: speed,
  cutMmPerS: speed,
  /** From when the beam is told until it is there. */
  responseMs: z.number().min(0).max(20).default(0),
});

export const knifeCutter = z.strictObject({
  ...common,
  kind: z.literal("knife-cutter"),
  cutMmPerS: speed,
  /** From the middle of the holder to the edge of the blade that trails behind it. */
  bladeOffsetMm: mm(0, 3),
  overcutMm: mm(0, 10),
  /** To lower or raise the knife, once. */
  liftMs: z.number().min(0).max(2000),
  marks: markEntry.default(markEntry.parse({})),
});

export const filmPrinter = z.strictObject({
  ...common,
  kind: z.literal("film-printer"),
  dotsPerInch: z.array(z.number().min(10).max(4800)).min(1).max(12),
  /** Rows of dots that one way of the head prints. */
  swathDots: z.int().min(1).max(4096),
  printMmPerS: speed,
});

/** A machine of the shop: what it reaches, how fast it is, what it can do. Lengths in mm. */
export const machineSchema = z.discriminatedUnion("kind", [bedLaser, knifeCutter, filmPrinter], {
  error: (issue) =>
    issue.code === "invalid_union" ? '"bed-laser", "knife-cutter", "film-printer"' : undefined,
});
export type Machine = z.output<typeof machineSchema>;
export type BedLaser = z.output<typeof bedLaser>;
export type KnifeCutter = z.output<typeof knifeCutter>;
export type FilmPrinter = z.output<typeof filmPrinter>;

/** @throws RouteError that names the setting, the value and what is allowed */
export function readMachine(json: unknown): Machine {
  const read = machineSchema.safeParse(json);
  if (!read.success) throw routeErrorOf("machine", read.error, json);
  return read.data;
}

/** The part of the bed that the head reaches, in mm from the bed's top left. */
export const reachable = ({ bed, margins: m }: Pick<Machine, "bed" | "margins">): Rect => ({
  x: m.leftMm,
  y: m.topMm,
  width: bed.widthMm - m.leftMm - m.rightMm,
  height: bed.heightMm - m.topMm - m.bottomMm,
});

/** Machines that a shop starts with, one of each kind; each runs as a stand-in beside the program. */
export const USUAL_MACHINES: readonly Machine[] = [
  machineSchema.parse({
    ...{ kind: "bed-laser", key: "bed-laser", name: "Bed laser, 600 x 400" },
    bed: { widthMm: 600, heightMm: 400 },
    margins: { leftMm: 2, topMm: 2, rightMm: 2, bottomMm: 2 },
    ...{ travelMmPerS: 500, accelMmPerS2: 6000, cornerMm: 0.02 },
    dotsPerInch: [127, 254, 300, 500, 508, 1016],
    ...{ burnMmPerS: 300, scoreMmPerS: 80, cutMmPerS: 15, responseMs: 0.2 },
  }),
  machineSchema.parse({
    ...{ kind: "knife-cutter", key: "knife-cutter", name: "Drag-knife cutter, 610 wide" },
    bed: { widthMm: 610, heightMm: 1200 },
    margins: { leftMm: 5, topMm: 10, rightMm: 5, bottomMm: 10 },
    ...{ travelMmPerS: 600, accelMmPerS2: 8000, cornerMm: 0.02 },
    ...{ cutMmPerS: 200, bladeOffsetMm: 0.25, overcutMm: 0.5, liftMs: 40 },
  }),
  machineSchema.parse({
    ...{ kind: "film-printer", key: "film-printer", name: "Film printer, 330 wide" },
    bed: { widthMm: 330.2, heightMm: 3000 },
    margins: { leftMm: 3, topMm: 3, rightMm: 3, bottomMm: 3 },
    ...{ travelMmPerS: 700, accelMmPerS2: 9000 },
    ...{ dotsPerInch: [720, 1440], swathDots: 180, printMmPerS: 500 },
  }),
];

/** A job that a machine cannot do as it is: what of it, the value it has, and what the machine takes. */
export class MachineError extends Error {
  constructor(
    readonly what: string,
    readonly value: unknown,
    readonly allowed: string,
  ) {
    super(`${what} is ${String(value)}; ${allowed}`);
    this.name = "MachineError";
  }
}
