import { inStretches, workSlice, type Work } from "../maths/work";
import { chokedBy } from "./moveEdge";

/** A plate that lies over the white, and how much white is wanted under it where it is full, 0..1. */
export interface Over {
  readonly plane: Uint8Array;
  readonly under: number;
}

/** Distances inside a shape, worked out or at hand from the time before; then the shape is not asked for. */
export type Inside = (shape: () => Work<Uint8Array>) => Work<Int32Array>;

/**
 * The white under the art: under every ink as much as that ink wants, pulled in from where the art ends at the cloth so
 * that none peeks out. Where the white itself is to be seen it is not pulled in.
 *
 * @param own     the plane of what is white in the art; null when nothing is
 * @param byPx    how far it is pulled in
 * @param inside  squared distances to the outside of a shape
 * @returns greys, 255 = bare
 */
export function* underbaseOf(
  over: readonly Over[],
  own: Uint8Array | null,
  strength: number,
  count: number,
  byPx: number,
  inside: Inside,
): Work<Uint8Array> {
  const plane = new Uint8Array(count);
  yield* workSlice(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) {
        // What inks share a pixel between them stand side by side on it.
        let white = own ? 255 - own[i] : 0;
        for (const { plane: ink, under } of over) white += strength * under * (255 - ink[i]);
        plane[i] = 255 - Math.min(255, Math.round(white));
      }
    }),
    0,
    0.3,
  );
  if (byPx <= 0) return plane;
  const squared = yield* workSlice(
    inside(() => shapeOfAll(over, own, count)),
    0.3,
    0.8,
  );
  const pulled = yield* workSlice(chokedBy(plane, squared, byPx), 0.8, 0.9);
  if (!own) return pulled;
  yield* workSlice(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) pulled[i] = Math.min(pulled[i], own[i]);
    }),
    0.9,
    1,
  );
  return pulled;
}

/** Where inks and seen white together cover half or more: 1. */
function* shapeOfAll(over: readonly Over[], own: Uint8Array | null, count: number): Work<Uint8Array> {
  const shape = new Uint8Array(count);
  yield* inStretches(count, (from, to) => {
    for (let i = from; i < to; i++) {
      let all = own ? 255 - own[i] : 0;
      for (const { plane } of over) all += 255 - plane[i];
      shape[i] = all >= 128 ? 1 : 0;
    }
  });
  return shape;
}
