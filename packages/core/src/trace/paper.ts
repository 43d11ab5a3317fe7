import { percentile } from "../maths/percentile";
import { type Work } from "../maths/work";
import { newGray, type Gray } from "../raster/types";

// Thresholds: what they come to is measured by `npm run thin`.

/** Paper is looked for in squares so many pixels wide. */
const SQUARE = 24;
/** Of a square's greys so large a share is darker than its paper: strokes are few. */
const DARKER = 0.8;
/** A square whose paper is no lighter than this share of the lightest is covered: its paper is that of the others. */
const COVERED = 0.6;
/** Paper as light as this, all over, is white. */
const WHITE = 250;

/**
 * A drawing as on white paper: every grey in relation to the paper about it, so that uneven light and grey paper are no
 * ink. What lies on white is given back as it is.
 */
export function* onWhitePaper(gray: Gray): Work<Gray> {
  const { width, height, data } = gray;
  const [across, down] = [Math.max(1, Math.round(width / SQUARE)), Math.max(1, Math.round(height / SQUARE))];
  const paper = new Float64Array(across * down);
  const counts = new Uint16Array(256);
  for (let n = 0; n < paper.length; n++) {
    if (n % across === 0) yield (0.5 * n) / paper.length;
    const [i, j] = [n % across, Math.floor(n / across)];
    const [left, right] = [Math.floor((i * width) / across), Math.floor(((i + 1) * width) / across)];
    const [top, bottom] = [Math.floor((j * height) / down), Math.floor(((j + 1) * height) / down)];
    counts.fill(0);
    for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) counts[data[y * width + x]]++;
    paper[n] = percentile(counts, DARKER);
  }
  const lightest = paper.reduce((most, v) => Math.max(most, v), 1);
  const bare = paper.filter((v) => v > COVERED * lightest);
  const usual = bare.reduce((sum, v) => sum + v, 0) / bare.length;
  for (let n = 0; n < paper.length; n++) if (paper[n] <= COVERED * lightest) paper[n] = usual;
  if (paper.every((v) => v >= WHITE)) return gray;
  const out = newGray(width, height);
  for (let y = 0; y < height; y++) {
    if (y % 64 === 0) yield 0.5 + (0.5 * y) / height;
    const v = Math.min(down - 1, Math.max(0, ((y + 0.5) * down) / height - 0.5));
    const [j, b] = [Math.min(down - 1, Math.floor(v)), v - Math.floor(v)];
    const below = Math.min(down - 1, j + 1);
    for (let x = 0; x < width; x++) {
      const u = Math.min(across - 1, Math.max(0, ((x + 0.5) * across) / width - 0.5));
      const [i, a] = [Math.min(across - 1, Math.floor(u)), u - Math.floor(u)];
      const right = Math.min(across - 1, i + 1);
      const above = paper[j * across + i] * (1 - a) + paper[j * across + right] * a;
      const under = paper[below * across + i] * (1 - a) + paper[below * across + right] * a;
      const own = above * (1 - b) + under * b;
      out.data[y * width + x] = Math.min(255, Math.round((255 * data[y * width + x]) / own));
    }
  }
  return out;
}
