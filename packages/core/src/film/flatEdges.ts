import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { CLOTH, MIXED, THIN } from "./flatLabels";
import { bestOf, sharply, type Sharp } from "./twoInks";

// Thresholds: what they decide is measured by `npm run films`, and by `flat.test.ts`.

/** An ink that has a whole area so near is there; without one, what looks like it at an edge may be a mixture of others. */
const AREA_WITHIN = 2;
/** A rim is so wide to either side of a pixel at most. */
const RIM_WITHIN = 7;
const AXES = [
  [1, 0],
  [0, 1],
  [1, 1],
  [1, -1],
] as const;
/** Off the line between two areas' colours by no more than this share of it, a pixel between them is their mixture. */
const ON_LINE = 0.12;

/**
 * Pixels at an edge are mixed, however near to an ink they are: beside an area of that ink to a small part, and where two
 * other areas explain them, wholly. So a rim between black and white is no grey ink, and edges lie where they are.
 */
export function* markEdges(
  data: Uint8Array,
  labels: Uint8Array,
  width: number,
  height: number,
  centres: readonly Sharp[],
): Work<void> {
  const areas = new Areas(labels, width, height, centres.length - 1);
  yield* workSlice(areas.find(), 0, 0.5);
  const { whole, wholeFours } = areas;
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / 16)) * width;
  for (let from = 0; from < labels.length; from += atOnce) {
    yield 0.5 + (0.5 * from) / labels.length;
    const to = Math.min(labels.length, from + atOnce);
    for (let i = from; i < to; i++) {
      // Most art lies in areas: four pixels of one are passed over at once.
      if ((i & 3) === 0 && wholeFours[i >> 2] === ALL_WHOLE) i += 3;
      else if (labels[i] < MIXED && whole[i] === 0) labels[i] |= areas.kindAt(i, data, centres);
    }
  }
}

/** Four pixels beside each other that are all whole. */
const ALL_WHOLE = 0x01010101;

/** Pixels whose neighbours are all of their own ink, or all cloth. */
class Areas {
  readonly whole: Uint8Array;
  /** The same, and the labels, four at a time. */
  readonly wholeFours: Uint32Array;
  private readonly fours: Uint32Array;

  constructor(
    private readonly labels: Uint8Array,
    private readonly width: number,
    private readonly height: number,
    /** What cloth is called among the colours. */
    private readonly cloth: number,
  ) {
    this.whole = new Uint8Array(labels.length);
    this.wholeFours = new Uint32Array(this.whole.buffer, 0, labels.length >> 2);
    this.fours = new Uint32Array(labels.buffer, labels.byteOffset, labels.length >> 2);
  }

  *find(): Work<void> {
    const { width, height } = this;
    const atOnce = rowsAtOnce(2 * width);
    for (let y = 0; y < height; y++) {
      if (y % atOnce === 0) yield y / height;
      this.findRow(y * width, y > 0 ? -width : 0, y + 1 < height ? width : 0);
    }
  }

  private findRow(start: number, above: number, below: number): void {
    const { labels, whole, width } = this;
    const end = start + width - 1;
    let [before, own] = [labels[start], labels[start]];
    for (let i = start; i < end; i++) {
      if ((i & 3) === 0 && i + 4 < end && before === own && this.areFourWhole(i, own, above, below)) {
        this.wholeFours[i >> 2] = ALL_WHOLE;
        i += 3;
        continue;
      }
      const after = labels[i + 1];
      // No bit differs: less one is negative, and its sign the mark. Which way it falls need not be guessed.
      const off = (before ^ own) | (after ^ own) | (labels[i + above] ^ own) | (labels[i + below] ^ own);
      whole[i] = (off - 1) >>> 31;
      [before, own] = [own, after];
    }
    const off = (before ^ own) | (labels[end + above] ^ own) | (labels[end + below] ^ own);
    whole[end] = (off - 1) >>> 31;
  }

  /** Whether four pixels beside each other, and all their neighbours but the one before them, are of one label. */
  private areFourWhole(i: number, own: number, above: number, below: number): boolean {
    if ((this.width & 3) !== 0) return false; // those above lie across two words
    const { fours, labels } = this;
    const word = Math.imul(own, 0x01010101) >>> 0;
    const at = i >> 2;
    return (
      fours[at] === word &&
      fours[at + (above >> 2)] === word &&
      fours[at + (below >> 2)] === word &&
      labels[i + 4] === own
    );
  }

  /** Whether a pixel at an edge is a mixture, or of a thin stroke. */
  kindAt(i: number, data: Uint8Array, centres: readonly Sharp[]): number {
    const y = Math.floor(i / this.width);
    const x = i - y * this.width;
    if (this.has(this.labels[i], x, y)) return MIXED;
    const pairs = this.across(x, y);
    return pairs.length > 0 && bestOf(sharply(data, 4 * i), centres, pairs).off <= ON_LINE ? MIXED : THIN;
  }

  /** Whether an ink has an area near a place. */
  private has(ink: number, x: number, y: number): boolean {
    const { labels, width, height, whole } = this;
    for (let v = Math.max(0, y - AREA_WITHIN); v <= Math.min(height - 1, y + AREA_WITHIN); v++)
      for (let u = Math.max(0, x - AREA_WITHIN); u <= Math.min(width - 1, x + AREA_WITHIN); u++)
        if (whole[v * width + u] && labels[v * width + u] === ink) return true;
    return false;
  }

  /** Pairs of areas that face each other across a place: a line has the same on both sides, a rim has not. */
  private across(x: number, y: number): [number, number][] {
    const pairs: [number, number][] = [];
    for (const [dx, dy] of AXES) {
      const [one, other] = [this.first(x, y, dx, dy), this.first(x, y, -dx, -dy)];
      if (one !== null && other !== null && one !== other) pairs.push([one, other]);
    }
    return pairs;
  }

  /** The first area from a place on in one direction. */
  private first(x: number, y: number, dx: number, dy: number): number | null {
    const { labels, width, height, whole, cloth } = this;
    for (let n = 1; n <= RIM_WITHIN; n++) {
      const [u, v] = [x + n * dx, y + n * dy];
      if (u < 0 || v < 0 || u >= width || v >= height) return null;
      const i = v * width + u;
      if (!whole[i] || (labels[i] >= THIN && labels[i] !== CLOTH)) continue;
      return labels[i] === CLOTH ? cloth : labels[i];
    }
    return null;
  }
}
