import { type Job } from "../machine/job";
import { MachineError } from "../machine/error";
import { MM_PER_INCH } from "../maths/units";
import { workSlice, type Work } from "../maths/work";
import { type PathSet } from "../path/pathSet";
import { newBits, type Bits } from "../raster/types";
import { type Placing } from "./arrangement";
import { withCommonLines } from "./commonLines";
import { type SheetPiece } from "./piece";
import { cosSinOf } from "./turning";

interface Stock {
  readonly widthMm: number;
  readonly heightMm: number;
}

/**
 * One sheet as a job: the lines of every copy where it lies, and one bitmap of all copies' dots. Dots are not resampled: a
 * copy with dots lies on the sheet's own, turned by quarters alone.
 * @throws MachineError where copies have dots of several sizes, or are turned otherwise
 */
export function* sheetJob(
  name: string,
  pieces: readonly SheetPiece[],
  placings: readonly Placing[],
  stock: Stock,
  commonLines = false,
): Work<Job> {
  const dotted = placings.filter((p) => pieces[p.piece].bitmap);
  const bitmaps: Job["bitmaps"][number][] = [];
  if (dotted.length > 0) {
    const { dotsPerInch } = pieces[dotted[0].piece].bitmap!;
    const bits = yield* workSlice(dotsOn(pieces, dotted, stock, dotsPerInch), 0, 0.7);
    bitmaps.push({ name: "bitmap", bits, dotsPerInch });
  }
  const groups = new Map<string, PathSet[]>();
  for (const at of placings)
    for (const set of pieces[at.piece].sets) {
      const key = `${set.use} ${set.overcutMm ?? 0} ${set.pass?.name ?? set.name}`;
      groups.set(key, [...(groups.get(key) ?? []), movedSet(set, pieces[at.piece], at)]);
    }
  yield 0.9;
  const sets = [...groups.values()].map(joinedSets);
  return {
    ...{ name, bitmaps, widthMm: stock.widthMm, heightMm: stock.heightMm },
    sets: commonLines ? sets.map(withCommonLines) : sets,
  };
}

/** Places of a piece as places of the sheet. */
export function ontoSheet(
  { box }: Pick<SheetPiece, "box">,
  at: Placing,
): (x: number, y: number) => [number, number] {
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const [cos, sin] = cosSinOf(at.turnDegrees);
  const way = at.mirrored ? -1 : 1;
  return (x, y) => {
    const [u, v] = [way * (x - cx), y - cy];
    return [at.xMm + u * cos - v * sin, at.yMm + u * sin + v * cos];
  };
}

function movedSet(set: PathSet, piece: SheetPiece, at: Placing): PathSet {
  const onto = ontoSheet(piece, at);
  const points = new Float64Array(set.points.length);
  for (let k = 0; k < points.length; k += 2) points.set(onto(set.points[k], set.points[k + 1]), k);
  return { ...set, points };
}

function joinedSets(sets: readonly PathSet[]): PathSet {
  const points = new Float64Array(sets.reduce((n, s) => n + s.points.length, 0));
  const starts: number[] = [0];
  let at = 0;
  for (const set of sets) {
    points.set(set.points, at);
    for (let k = 1; k < set.starts.length; k++) starts.push(at / 2 + set.starts[k]);
    at += set.points.length;
  }
  const closed = Uint8Array.from(sets.flatMap((s) => [...s.closed]));
  const { widthsMm: _, ...look } = sets[0];
  return { ...look, points, starts: Uint32Array.from(starts), closed };
}

function* dotsOn(
  pieces: readonly SheetPiece[],
  placings: readonly Placing[],
  stock: Stock,
  dotsPerInch: number,
): Work<Bits> {
  const dot = MM_PER_INCH / dotsPerInch;
  const out = newBits(Math.round(stock.widthMm / dot), Math.round(stock.heightMm / dot));
  for (const [k, at] of placings.entries()) {
    yield k / placings.length;
    const bitmap = pieces[at.piece].bitmap!;
    if (Math.abs(bitmap.dotsPerInch - dotsPerInch) > 0.01)
      throw new MachineError(
        "Dots of the pieces",
        `${bitmap.dotsPerInch} and ${dotsPerInch} per inch`,
        "one resolution a sheet",
      );
    if (at.turnDegrees % 90 !== 0)
      throw new MachineError("The turn of a piece with dots", `${at.turnDegrees} degrees`, "0, 90, 180, 270");
    const onto = ontoSheet(pieces[at.piece], at);
    const inDots = (x: number, y: number) => onto(x * dot, y * dot).map((mm) => mm / dot);
    layDots(out, bitmap.bits, inDots(0.5, 0.5), cosSinOf(at.turnDegrees), at.mirrored ? -1 : 1);
  }
  return out;
}

/** Sets a dot for every dot of a bitmap, turned by quarters; the middle of its first comes to lie at `first`. */
function layDots(
  out: Bits,
  bits: Bits,
  first: readonly number[],
  [cos, sin]: readonly [number, number],
  way: number,
): void {
  const [left, top] = first.map((v) => Math.floor(v + 1e-6));
  for (let y = 0; y < bits.height; y++)
    for (let x = 0; x < bits.width; x++) {
      const byte = bits.data[y * bits.stride + (x >> 3)];
      if (byte === 0) {
        x |= 7; // eight at once
        continue;
      }
      if (((byte >> (7 - (x & 7))) & 1) === 0) continue;
      const [u, v] = [left + way * x * cos - y * sin, top + way * x * sin + y * cos];
      if (u < 0 || v < 0 || u >= out.width || v >= out.height) continue;
      out.data[v * out.stride + (u >> 3)] |= 128 >> (u & 7);
    }
}

/** A placing moved by less than half a dot, so that the piece's dots are the sheet's. */
export function onDots(piece: Pick<SheetPiece, "box" | "bitmap">, at: Placing): Placing {
  if (!piece.bitmap) return at;
  const dot = MM_PER_INCH / piece.bitmap.dotsPerInch;
  const [x, y] = ontoSheet(piece, at)(0, 0);
  const off = (v: number) => Math.round(v / dot) * dot - v;
  return { ...at, xMm: at.xMm + off(x), yMm: at.yMm + off(y) };
}
