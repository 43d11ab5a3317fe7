import { figure, placeInMm, type Check } from "../inspect/check";
import { ringArea, ringBox } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { simplified } from "../polygon/clip";
import { lying, placed, type NestPiece, type Placing } from "./arrangement";
import { markPlaces, markZones } from "./marks";
import { overlap } from "./noFit";
import { pairsNear, touches } from "./pairs";
import { marksOf, spacingOf, stockOf, turnsOf, type SheetReach, type SheetSettings } from "./sheetFile";

// Thresholds: what they decide is measured by `npm run nests`.

/** Outlines are looked at within this, in mm. */
const WITHIN_MM = 0.01;
/** A sheet of which less than this is used is wasted, in percent. */
const LITTLE = 35;

/** What of the stock is used, 0..1: the area of all copies by that of the sheets down to the last copy. */
export function usedShare(
  pieces: readonly NestPiece[],
  placings: readonly Placing[],
  sheet: SheetSettings,
): number {
  if (placings.length === 0) return 0;
  const { widthMm, heightMm, roll } = sheet.stock;
  const areas = pieces.map((p) => Math.abs(ringArea(p.outline)));
  const area = placings.reduce((sum, p) => sum + areas[p.piece], 0);
  const sheets = placings.reduce((most, p) => Math.max(most, p.sheet), 0) + 1;
  const lies = new Map<string, Rect>();
  let bottom = 0;
  for (const at of placings) {
    if (at.sheet !== sheets - 1) continue;
    const box = boxOf(pieces, at, lies);
    bottom = Math.max(bottom, box.y + box.height);
  }
  const last = roll ? Math.min(heightMm, bottom + sheet.marginMm) : heightMm;
  return area / (widthMm * (heightMm * (sheets - 1) + last));
}

/** What a sheet is looked at for, each with its places on the sheets. */
export function checkSheet(
  pieces: readonly NestPiece[],
  placings: readonly Placing[],
  sheet: SheetSettings,
  wanted: number,
  {
    reach,
    readsMarks = false,
    printed = false,
  }: { reach?: SheetReach; readsMarks?: boolean; printed?: boolean } = {},
): Check[] {
  // A hundredth of a millimetre is no matter here, and outlines have thousands of corners.
  const plain = pieces.map((p) => ({ ...p, outline: simplified([p.outline], WITHIN_MM)[0] ?? p.outline }));
  const lies = new Map<string, Rect>();
  const boxes = placings.map((p) => boxOf(pieces, p, lies));
  const { room } = stockOf(sheet, reach);
  const spacing = spacingOf(sheet);
  const beyond = boxes.filter((b) => !isIn(b, room, 0.02));
  const nearBy = spacing > 0.1 ? spacing - 2 * WITHIN_MM - 0.02 : 0;
  const { found, whole } = pairsNear(plain, placings, boxes, nearBy);
  const over = found.filter((p) => p.over).map(({ a }) => placeInMm(boxes[a]));
  const near = found.length - over.length;
  const more = whole ? "" : " or more";
  const allowed = turnsOf(sheet);
  const turned = placings.flatMap((p, k) => (allowed.includes(p.turnDegrees) ? [] : [placeInMm(boxes[k])]));
  const missing = wanted - placings.length;
  const used = 100 * usedShare(pieces, placings, sheet);
  const checks: Check[] = [
    {
      ...{
        id: "sheetReach",
        level: beyond.length > 0 ? "stop" : "fine",
        value: beyond.length,
        unit: "pieces",
      },
      text: beyond.length > 0 ? "Pieces outside of what the machine reaches" : "All within reach",
      detail: `${beyond.length} of ${placings.length} reach beyond the margins or what the machine reaches.`,
      places: beyond.map(placeInMm).slice(0, 50),
    },
    {
      ...{ id: "sheetOverlap", value: over.length + near, unit: "pairs" },
      level: over.length > 0 ? "stop" : near > 0 || !whole ? "look" : "fine",
      text:
        over.length > 0
          ? "Pieces over one another"
          : near > 0
            ? "Pieces too near"
            : whole
              ? "No piece over another"
              : "Too many outlines to look at them all",
      detail: `${over.length}${more} pairs over one another, ${near}${more} nearer than ${figure(spacing, 2)} mm.`,
      places: over.slice(0, 50),
    },
    {
      ...{
        id: "sheetGrain",
        level: turned.length > 0 ? "stop" : "fine",
        value: turned.length,
        unit: "pieces",
      },
      text: turned.length > 0 ? "Pieces turned against the grain" : "All lie with the grain",
      detail: `Pieces may be turned by ${allowed.join(", ")} degrees.`,
      places: turned.slice(0, 50),
    },
    {
      ...{
        id: "sheetCopies",
        level: missing > 0 ? "stop" : "fine",
        value: Math.max(0, missing),
        unit: "pieces",
      },
      text: missing > 0 ? "Too few copies" : "All copies placed",
      detail: `${placings.length} of ${wanted} are placed on ${sheet.stock.sheets} sheets at most.`,
      places: [],
    },
    {
      ...{ id: "sheetWaste", level: used < LITTLE ? "look" : "fine", value: 100 - used, unit: "%" },
      text: used < LITTLE ? "Most of the stock is waste" : "Waste",
      detail: `${figure(used, 1)} % of the stock is used.`,
      places: [],
    },
  ];
  checks.push(...markChecks(plain, placings, boxes, sheet, readsMarks && printed));
  return checks;
}

function markChecks(
  plain: readonly Pick<NestPiece, "outline" | "box">[],
  placings: readonly Placing[],
  boxes: readonly Rect[],
  sheet: SheetSettings,
  needed: boolean,
): Check[] {
  const entry = marksOf(sheet);
  if (!entry) {
    if (!needed) return [];
    return [
      {
        ...{ id: "sheetMarks", level: "stop", value: 0, unit: "marks", places: [] },
        text: "Register marks missing",
        detail: "What is printed and then cut needs marks for the machine's registration camera.",
      },
    ];
  }
  const places = markPlaces(entry, sheet.stock);
  const zones = markZones(places, entry);
  const covered = zones.filter((zone) => {
    const { x: l, y: t, width: w, height: h } = shrunk(zone, WITHIN_MM);
    const round = Float64Array.of(l, t, l + w, t, l + w, t + h, l, t + h);
    return placings.some((p, k) => touches(boxes[k], zone, 0) && overlap(placed(plain[p.piece], p), round));
  });
  const { widthMm, heightMm } = sheet.stock;
  const half = entry.sizeMm / 2;
  const off = places.filter(([x, y]) => x < half || y < half || x > widthMm - half || y > heightMm - half);
  const close = places.some(([x, y], k) =>
    places.some(([u, v], j) => j > k && Math.abs(x - u) + Math.abs(y - v) < 2 * entry.sizeMm),
  );
  const wrong = covered.length + off.length + +close;
  return [
    {
      ...{
        id: "sheetMarks",
        level: wrong > 0 ? "stop" : "fine",
        value: covered.length + off.length,
        unit: "marks",
      },
      text:
        off.length > 0
          ? "Register marks off the sheet"
          : close
            ? "Register marks too near to one another"
            : covered.length > 0
              ? "Register marks covered, or too near"
              : "Register marks clear",
      detail: `${entry.count} marks of ${figure(entry.sizeMm)} mm, ${figure(entry.insetMm)} mm in; ${figure(entry.clearMm)} mm round them stay free.`,
      places: covered.map(placeInMm),
    },
  ];
}

/** The box of a copy; of copies that lie the same way it is looked for once. */
function boxOf(pieces: readonly NestPiece[], at: Placing, lies: Map<string, Rect>): Rect {
  const key = `${at.piece} ${at.turnDegrees} ${at.mirrored}`;
  let box = lies.get(key);
  if (!box) lies.set(key, (box = ringBox(lying(pieces[at.piece], at))));
  return { ...box, x: box.x + at.xMm, y: box.y + at.yMm };
}

const shrunk = ({ x, y, width, height }: Rect, by: number): Rect => ({
  ...{ x: x + by, y: y + by },
  ...{ width: width - 2 * by, height: height - 2 * by },
});

const isIn = (a: Rect, b: Rect, by: number): boolean =>
  a.x >= b.x - by &&
  a.y >= b.y - by &&
  a.x + a.width <= b.x + b.width + by &&
  a.y + a.height <= b.y + b.height + by;
