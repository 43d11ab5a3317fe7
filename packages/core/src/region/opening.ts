import { rowsAtOnce, type Work } from "../maths/work";

/**
 * Morphological opening by a square, in place: keeps the set pixels that a `side` x `side` square of set pixels
 * covers somewhere. Erosion and dilation are each done along rows and then along columns by counting runs,
 * so the cost does not depend on the side.
 *
 * @param mask  width x height bytes, 0 or 1; replaced by the result
 * @param side  in pixels, 1 or more
 * @see Serra, "Image Analysis and Mathematical Morphology", 1982
 */
export function* openBySquare(mask: Uint8Array, width: number, height: number, side: number): Work<void> {
  if (side <= 1) return;
  // A pixel set after erosion is the last (right, bottom) pixel of a square that fits.
  yield* eachRow(width, height, 0, (start) => {
    for (let x = 0, run = 0; x < width; x++) {
      run = (run + 1) * mask[start + x];
      mask[start + x] = run >= side ? 1 : 0;
    }
  });
  const runs = new Int32Array(width);
  yield* eachRow(width, height, 0.25, (start) => {
    for (let x = 0; x < width; x++) {
      runs[x] = (runs[x] + 1) * mask[start + x];
      mask[start + x] = runs[x] >= side ? 1 : 0;
    }
  });
  // Grow each back over the square it stands for: `side` pixels to the left and up.
  yield* eachRow(width, height, 0.5, (start) => {
    for (let x = width - 1, left = 0; x >= 0; x--) {
      if (mask[start + x]) left = side;
      if (left > 0) {
        mask[start + x] = 1;
        left--;
      }
    }
  });
  runs.fill(0);
  yield* eachRow(width, height, 0.75, (fromTop) => {
    const start = (height - 1) * width - fromTop;
    for (let x = 0; x < width; x++) {
      if (mask[start + x]) runs[x] = side;
      if (runs[x] > 0) {
        mask[start + x] = 1;
        runs[x]--;
      }
    }
  });
}

function* eachRow(width: number, height: number, from: number, act: (start: number) => void): Work<void> {
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield from + (0.25 * y) / height;
    act(y * width);
  }
}
