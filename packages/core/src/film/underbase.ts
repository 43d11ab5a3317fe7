import { inStretches, portion, type Work } from "../maths/work";
import { choke } from "./moveEdge";

/** A plate that lies over the white, and how much white is wanted under it where it is full, 0..1. */
export interface Over {
  readonly plane: Uint8Array;
  readonly under: number;
}

/**
 * The white under the art: under every ink as much as that ink wants, pulled in from where the art ends at the cloth so
 * that none peeks out. Where the white itself is to be seen it is not pulled in.
 *
 * @param own     the plane of what is white in the art; null when nothing is
 * @param byPx    how far it is pulled in
 * @returns greys, 255 = bare
 */
export function* underbaseOf(
  over: readonly Over[],
  own: Uint8Array | null,
  strength: number,
  width: number,
  height: number,
  byPx: number,
): Work<Uint8Array> {
  const count = width * height;
  const plane = new Uint8Array(count);
  const shape = new Uint8Array(count);
  yield* portion(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) {
        // What inks share a pixel between them stand side by side on it.
        let [white, all] = [own ? 255 - own[i] : 0, own ? 255 - own[i] : 0];
        for (const { plane: ink, under } of over) {
          white += strength * under * (255 - ink[i]);
          all += 255 - ink[i];
        }
        plane[i] = 255 - Math.min(255, Math.round(white));
        shape[i] = all >= 128 ? 1 : 0;
      }
    }),
    0,
    0.3,
  );
  if (byPx <= 0) return plane;
  const pulled = yield* portion(choke(plane, shape, width, height, byPx), 0.3, 0.9);
  if (!own) return pulled;
  yield* portion(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) pulled[i] = Math.min(pulled[i], own[i]);
    }),
    0.9,
    1,
  );
  return pulled;
}
