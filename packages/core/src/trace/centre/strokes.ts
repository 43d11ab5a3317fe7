import { inStretches, workSlice, type Work } from "../../maths/work";
import { newGray, type Gray } from "../../raster/types";
import { squaredDistanceTo } from "../../region/distance";
import { withoutSpecks } from "../tones/labels";

/** What is dark, parted into strokes and what is too wide for one. */
export interface Strokes {
  /** Pixels of strokes, 0 or 1. */
  readonly mask: Uint8Array;
  /** The picture without them. */
  readonly rest: Gray;
}

/**
 * Parts what is dark by its width: what no disc of a diameter fits into is a stroke. Leftovers at the corners of wide
 * shapes, and dots, are none.
 *
 * @param widest  in pixels
 */
export function* strokesIn(gray: Gray, threshold: number, widest: number): Work<Strokes> {
  const { width, height, data } = gray;
  const bare = data.map((g) => +(g >= threshold));
  const radius = widest / 2;
  const depth = yield* workSlice(squaredDistanceTo(bare, width, height), 0, 0.4);
  const core = new Uint8Array(bare.length);
  yield* inStretches(core.length, (from, to) => {
    for (let i = from; i < to; i++) core[i] = +(bare[i] === 0 && depth[i] > (radius + 0.5) * (radius + 0.5));
  });
  const wide = yield* workSlice(squaredDistanceTo(core, width, height), 0.4, 0.8);
  const labels = new Uint8Array(bare.length);
  yield* inStretches(core.length, (from, to) => {
    for (let i = from; i < to; i++)
      labels[i] = bare[i] ? 0 : wide[i] <= (radius + 1) * (radius + 1) ? WIDE : STROKE;
  });
  const before = labels.slice();
  yield* workSlice(withoutSpecks(labels, width, height, widest * widest), 0.8, 0.95);
  const mask = new Uint8Array(bare.length);
  const rest = newGray(width, height);
  yield* inStretches(core.length, (from, to) => {
    for (let i = from; i < to; i++) {
      mask[i] = +(labels[i] === STROKE && before[i] === STROKE);
      rest.data[i] = mask[i] ? 255 : data[i];
    }
  });
  return { mask, rest };
}

const [STROKE, WIDE] = [1, 2];
