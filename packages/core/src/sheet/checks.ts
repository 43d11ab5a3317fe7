import { figure, placeInMm, type Check, type Place } from "../inspect/check";
import { reversedRing, ringArea, ringBox, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { simplified } from "../polygon/clip";
import { offset } from "../polygon/offset";
import { lying, placed, type NestPiece, type Placing } from "./arrangement";
import { markPlaces, markZones } from "./marks";
import { overlap } from "./noFit";
import { marksOf, spacingOf, stockOf, turnsOf, type SheetReach, type SheetSettings } from "./sheetFile";

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
  const area = placings.reduce((sum, p) => sum + Math.abs(ringArea(pieces[p.piece].outline)), 0);
  const sheets = Math.max(...placings.map((p) => p.sheet)) + 1;
  const rings = placings
    .filter((p) => p.sheet === sheets - 1)
    .map((p) => ringBox(placed(pieces[p.piece], p)));
  const bottom = Math.max(...rings.map((b) => b.y + b.height));
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
  const rings = placings.map((p) => placed(plain[p.piece], p));
  const boxes = placings.map((p) => ringBox(placed(pieces[p.piece], p)));
  const widened = grownRings(plain, spacingOf(sheet) - 2 * WITHIN_MM - 0.02);
  const { room } = stockOf(sheet, reach);
  const spacing = spacingOf(sheet);
  const beyond = boxes.filter((b) => !isIn(b, room, 0.02));
  const over: Place[] = [];
  let near = 0;
  for (let i = 0; i < rings.length; i++)
    for (let j = i + 1; j < rings.length; j++) {
      if (placings[i].sheet !== placings[j].sheet || !touches(boxes[i], boxes[j], spacing)) continue;
      if (overlap(rings[i], rings[j])) over.push(placeInMm(boxes[i]));
      else if (spacing > 0.1 && overlap(widened(placings[i]), rings[j])) near++;
    }
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
      level: over.length > 0 ? "stop" : near > 0 ? "look" : "fine",
      text:
        over.length > 0 ? "Pieces over one another" : near > 0 ? "Pieces too near" : "No piece over another",
      detail: `${over.length} pairs over one another, ${near} nearer than ${figure(spacing, 2)} mm.`,
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
  checks.push(...markChecks(rings, boxes, sheet, readsMarks && printed));
  return checks;
}

function markChecks(
  rings: readonly Ring[],
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
        detail: "What is printed and then cut needs marks for the machine's eye.",
      },
    ];
  }
  const places = markPlaces(entry, sheet.stock);
  const zones = markZones(places, entry);
  const covered = zones.filter((zone) => {
    const { x: l, y: t, width: w, height: h } = shrunk(zone, WITHIN_MM);
    const round = Float64Array.of(l, t, l + w, t, l + w, t + h, l, t + h);
    return rings.some((ring, k) => touches(boxes[k], zone, 0) && overlap(ring, round));
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

/** Outlines of copies grown by a distance: once for each way that they lie. */
function grownRings(pieces: readonly NestPiece[], byMm: number): (at: Placing) => Ring {
  const known = new Map<string, Ring>();
  const laid = new Map<Placing, Ring>();
  return (at) => {
    const there = laid.get(at);
    if (there) return there;
    const key = `${at.piece} ${at.turnDegrees} ${at.mirrored}`;
    let ring = known.get(key);
    if (!ring) {
      const own = lying(pieces[at.piece], at);
      const grown = offset([ringArea(own) < 0 ? reversedRing(own) : own], byMm);
      known.set(key, (ring = grown.reduce((a, b) => (ringArea(b) > ringArea(a) ? b : a))));
    }
    const here = ring.map((v, k) => v + (k % 2 === 0 ? at.xMm : at.yMm));
    laid.set(at, here);
    return here;
  };
}

const shrunk = ({ x, y, width, height }: Rect, by: number): Rect => ({
  ...{ x: x + by, y: y + by },
  ...{ width: width - 2 * by, height: height - 2 * by },
});

const touches = (a: Rect, b: Rect, by: number): boolean =>
  a.x < b.x + b.width + by &&
  b.x < a.x + a.width + by &&
  a.y < b.y + b.height + by &&
  b.y < a.y + a.height + by;

const isIn = (a: Rect, b: Rect, by: number): boolean =>
  a.x >= b.x - by &&
  a.y >= b.y - by &&
  a.x + a.width <= b.x + b.width + by &&
  a.y + a.height <= b.y + b.height + by;
