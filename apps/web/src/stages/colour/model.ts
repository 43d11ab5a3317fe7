import { type Frame } from "@hardline/core/path/frame";
import { type ColouredArea } from "@hardline/core/stage/colour/settings";
import { type ColourNote } from "./worker";

type At = readonly [number, number];

/** The area at a place of the artwork, as far as it is known yet; -1 for none. */
export function areaAt(note: ColourNote | undefined, frame: Frame, [x, y]: At): number {
  if (!note) return -1;
  const { width, height, of } = note.map;
  const [u, v] = [(x - frame.x) / frame.width, (y - frame.y) / frame.height];
  if (u < 0 || v < 0 || u >= 1 || v >= 1) return -1;
  return of[Math.floor(v * height) * width + Math.floor(u * width)];
}

/** Areas that are known to be the same as one of these lose what was said of them before. */
function without(
  areas: readonly ColouredArea[],
  note: ColourNote | undefined,
  gone: ReadonlySet<number>,
): ColouredArea[] {
  // What was told is of as many; a change since then is not known yet, and stays.
  const known = note && note.areas.length === areas.length ? note.areas : [];
  return areas.filter((_, k) => known[k] === undefined || known[k] < 0 || !gone.has(known[k]));
}

/** Places coloured: each area once. */
export function colouredAt(
  areas: readonly ColouredArea[],
  note: ColourNote | undefined,
  frame: Frame,
  places: readonly At[],
  colour: string,
): ColouredArea[] {
  const taken = new Set<number>();
  const fresh = places.filter((place) => {
    const area = areaAt(note, frame, place);
    if (area < 0) return true;
    if (taken.has(area)) return false;
    taken.add(area);
    return true;
  });
  const more = fresh.map(([x, y]): ColouredArea => ({ at: [rounded(x), rounded(y)], colour }));
  return [...without(areas, note, taken), ...more];
}

/** An area as it was: nothing is said of it any more, or, where it is not known which it is, that it stays as it is. */
export function takenBack(
  areas: readonly ColouredArea[],
  note: ColourNote | undefined,
  frame: Frame,
  place: At,
): ColouredArea[] {
  const area = areaAt(note, frame, place);
  const left = without(areas, note, new Set([area]));
  if (left.length < areas.length) return left;
  return [...areas, { at: [rounded(place[0]), rounded(place[1])], colour: null }];
}

/** The number of what was last said of the area at a place; -1 for nothing. */
export const saidAt = (note: ColourNote | undefined, frame: Frame, place: At): number => {
  const area = areaAt(note, frame, place);
  return area < 0 ? -1 : (note?.areas.lastIndexOf(area) ?? -1);
};

const rounded = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 1e6) / 1e6;

/** Colours that stand ready where a ticket has none of its own yet: paints that go with one another. */
export const USUAL_PALETTE = [
  "#c8352e",
  "#e8883a",
  "#f2c84b",
  "#5f9a4a",
  "#2f7f86",
  "#2f5aa8",
  "#7a4b93",
  "#d98aa3",
  "#8a5a3a",
  "#e9d3b4",
  "#8f9498",
  "#ffffff",
] as const;
