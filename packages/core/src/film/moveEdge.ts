import { inStretches, workSlice, type Work } from "../maths/work";
import { NOWHERE, squaredDistanceTo } from "../region/distance";

/*
 * Planes are greys, 255 = bare. An edge lies where a plate passes half; a pixel's own edge is half a pixel from its
 * middle. Moved edges are soft over a pixel, so that they lie where they should to a fraction of one.
 */

/** Grey at which an edge lies. */
const HALF = 128;

/**
 * A plate with its edges moved by an exact distance: out, carrying on the tone of the nearest printed pixel, or in.
 *
 * @param byPx  out if positive, in if negative; fractions allowed
 * @see `squaredDistanceTo`
 */
export function* moveEdge(plane: Uint8Array, width: number, height: number, byPx: number): Work<Uint8Array> {
  return byPx === 0
    ? plane
    : byPx > 0
      ? yield* spread(plane, width, height, byPx)
      : yield* choke(plane, yield* workSlice(shapeOf(plane), 0, 0.1), width, height, -byPx);
}

/** Where a plate prints: 1 from half on. */
export function* shapeOf(plane: Uint8Array): Work<Uint8Array> {
  const shape = new Uint8Array(plane.length);
  yield* inStretches(plane.length, (from, to) => {
    for (let i = from; i < to; i++) shape[i] = plane[i] < HALF ? 1 : 0;
  });
  return shape;
}

/** Where any of some plates prints anything at all. */
export function* anythingOf(planes: readonly Uint8Array[]): Work<Uint8Array> {
  const shape = new Uint8Array(planes[0].length);
  yield* inStretches(shape.length, (from, to) => {
    for (const plane of planes) addPrinted(plane, shape, from, to);
  });
  return shape;
}

function addPrinted(plane: Uint8Array, shape: Uint8Array, from: number, to: number): void {
  // Grey less full bare is negative where anything is printed.
  for (let i = from; i < to; i++) shape[i] |= (plane[i] - 255) >>> 31;
}

function* spread(plane: Uint8Array, width: number, height: number, byPx: number): Work<Uint8Array> {
  const shape = yield* workSlice(shapeOf(plane), 0, 0.1);
  const nearest = new Int32Array(plane.length);
  const squared = yield* workSlice(squaredDistanceTo(shape, width, height, nearest), 0.1, 0.9);
  const out = new Uint8Array(plane.length);
  const most = (byPx + 1) * (byPx + 1);
  yield* workSlice(
    inStretches(plane.length, (from, to) => {
      for (let i = from; i < to; i++) {
        const d2 = squared[i];
        if (d2 === 0 || d2 >= most) {
          out[i] = plane[i];
          continue;
        }
        const share = Math.min(1, Math.max(0, 1 - (Math.sqrt(d2) - byPx)));
        out[i] = Math.min(plane[i], 255 - Math.round((255 - plane[nearest[i]]) * share));
      }
    }),
    0.9,
    1,
  );
  return out;
}

/** A plate pulled in from the edge of a shape, 1 inside: beyond the picture's edge the shape goes on as it is there. */
export function* choke(
  plane: Uint8Array,
  shape: Uint8Array,
  width: number,
  height: number,
  byPx: number,
): Work<Uint8Array> {
  const squared = yield* workSlice(squaredInside(shape, width, height), 0, 0.8);
  return yield* workSlice(chokedBy(plane, squared, byPx), 0.8, 1);
}

/** For each pixel the squared distance to the nearest that is not of a shape; 0 outside it. */
export function* squaredInside(shape: Uint8Array, width: number, height: number): Work<Int32Array> {
  const outside = new Uint8Array(shape.length);
  yield* workSlice(
    inStretches(shape.length, (from, to) => {
      for (let i = from; i < to; i++) outside[i] = shape[i] ^ 1;
    }),
    0,
    0.1,
  );
  return yield* workSlice(squaredDistanceTo(outside, width, height), 0.1, 1);
}

/** A plate pulled in, where the distances are known. @param squared  as `squaredInside` gives them */
export function* chokedBy(plane: Uint8Array, squared: Int32Array, byPx: number): Work<Uint8Array> {
  const out = new Uint8Array(plane.length);
  yield* inStretches(plane.length, (from, to) => chokeStretch(plane, squared, byPx, out, from, to));
  return out;
}

function chokeStretch(
  plane: Uint8Array,
  squared: Int32Array,
  byPx: number,
  out: Uint8Array,
  from: number,
  to: number,
): void {
  const least = (byPx + 1) * (byPx + 1);
  for (let i = from; i < to; i++) {
    const d2 = squared[i];
    if (d2 >= least || d2 === NOWHERE) {
      out[i] = plane[i];
      continue;
    }
    const share = Math.min(1, Math.max(0, Math.sqrt(d2) - byPx));
    out[i] = Math.max(plane[i], 255 - Math.round(255 * share));
  }
}

/**
 * Lighter plates reach under the darker ones they meet, so that no cloth shows where the two are off by a little: each by
 * so much, and only where a darker one prints.
 *
 * @param lightness  of each plate's ink; of two equal ones neither moves
 */
export function* trapped(
  planes: readonly Uint8Array[],
  lightness: readonly number[],
  width: number,
  height: number,
  byPx: number,
): Work<Uint8Array[]> {
  const out: Uint8Array[] = [];
  for (const [k, plane] of planes.entries()) {
    const darker = planes.filter((_, j) => lightness[j] < lightness[k]);
    if (byPx === 0 || darker.length === 0) {
      out.push(plane);
      continue;
    }
    const part = (from: number, to: number): [number, number] => [
      (k + from) / planes.length,
      (k + to) / planes.length,
    ];
    const wider = yield* workSlice(spread(plane, width, height, byPx), ...part(0, 0.9));
    const own = plane.slice();
    yield* workSlice(
      inStretches(own.length, (from, to) => {
        for (let i = from; i < to; i++) {
          let cover = 0;
          for (const other of darker) cover = Math.max(cover, 255 - other[i]);
          if (cover > 0) own[i] = Math.min(own[i], 255 - Math.min(255 - wider[i], cover));
        }
      }),
      ...part(0.9, 1),
    );
    out.push(own);
  }
  return out;
}
