import { type Work } from "../maths/work";
import { newGray, type Gray } from "../raster/types";

// Thresholds: what they come to is measured by `npm run thin`.

/** Fine pixels along the side of one of the picture's. */
export const FINE = 4;
/** The picture is worked on in squares so many of its pixels wide, and so many more to each side count too. */
const [TILE, BESIDE] = [64, 6];
/** Turns in which the ink is evened, told from paper, and brought back to what each pixel holds. */
const TURNS = 8;
/** How much further apart ink and paper are after being told from one another. */
const GAIN = 2;
/** Times that what is missing of each pixel's ink is added, at first and in each turn. */
const [BEGIN, AGAIN] = [5, 3];
/** A Gaussian of one fine pixel. */
const KERNEL = [0.0545, 0.2442, 0.4026, 0.2442, 0.0545];
/** Ink is told from paper at half of the darkest so near, in fine pixels, or at half of full. */
const NEAR = 3;
/** Pixels this near to white or black, all over a square, hold nothing to be found. */
const PLAIN = 6;

/**
 * A picture of ink on paper, four times as fine: a pixel's darkness says how much ink lies in it, its neighbours say where.
 * Ink is evened out, told from paper, and what every pixel then has too little or too much of is put back, in turns. So a
 * stroke that is thinner than a pixel, and nowhere half dark, comes out as thin and as long as its ink says.
 *
 * @param threshold  grey between ink and paper, 1..255: half a pixel of ink
 * @param readily    0..1: how faint a stroke may be against what is near it; at 1 a tenth of full ink counts
 * @returns greys, 0 = ink; ink is what is under 128
 * @see Irani & Peleg, "Improving resolution by image registration", CVGIP 53, 1991, for putting back what is missing
 * @see Merriman, Bence & Osher, "Motion of multiple junctions", J. Comput. Phys. 112, 1994, for evening and telling apart
 */
export function* finer(gray: Gray, threshold: number, readily: number, blur = 0): Work<Gray> {
  const { width, height } = gray;
  const out = newGray(FINE * width, FINE * height);
  const least = 0.5 - 0.4 * readily;
  const ink = Float32Array.from({ length: 256 }, (_, g) =>
    g < threshold ? 1 - (0.5 * g) / threshold : (0.5 * (255 - g)) / Math.max(1, 255 - threshold),
  );
  const [across, down] = [Math.ceil(width / TILE), Math.ceil(height / TILE)];
  for (let n = 0; n < across * down; n++) {
    const [left, top] = [TILE * (n % across), TILE * Math.floor(n / across)];
    const tile = new Tile(gray, ink, left, top, blur);
    if (!tile.isPlain) {
      tile.addMissing(BEGIN);
      for (let turn = 0; turn < TURNS; turn++) {
        yield (n + turn / TURNS) / (across * down);
        tile.even();
        tile.tellApart(least);
        tile.addMissing(AGAIN);
      }
    }
    tile.write(out);
  }
  return out;
}

/** A square of the picture with what lies beside it, coarse as it is given and fine as it is made. */
class Tile {
  readonly isPlain: boolean;
  private readonly x: number;
  private readonly y: number;
  private readonly w: number;
  private readonly h: number;
  private readonly given: Float32Array;
  private readonly off: Float32Array;
  private readonly coarse: Float32Array;
  private readonly fine: Float32Array;
  private readonly spare: Float32Array;
  private readonly most: Float32Array;

  constructor(
    { width, height, data }: Gray,
    ink: Float32Array,
    private readonly left: number,
    private readonly top: number,
    private readonly blur: number,
  ) {
    this.x = Math.max(0, left - BESIDE);
    this.y = Math.max(0, top - BESIDE);
    this.w = Math.min(width, left + TILE + BESIDE) - this.x;
    this.h = Math.min(height, top + TILE + BESIDE) - this.y;
    const { w, h } = this;
    this.given = new Float32Array(w * h);
    let [darkest, palest] = [255, 0];
    for (let v = 0; v < h; v++)
      for (let u = 0; u < w; u++) {
        const grey = data[(this.y + v) * width + this.x + u];
        [darkest, palest] = [Math.min(darkest, grey), Math.max(palest, grey)];
        this.given[v * w + u] = ink[grey];
      }
    this.isPlain = darkest >= 255 - PLAIN || palest <= PLAIN;
    this.off = new Float32Array(w * h);
    this.coarse = new Float32Array(w * h);
    const count = FINE * FINE * w * h;
    this.fine = new Float32Array(count);
    this.spare = new Float32Array(this.isPlain ? 0 : count);
    this.most = new Float32Array(this.isPlain ? 0 : count);
    for (let v = 0, i = 0; v < FINE * h; v++)
      for (let u = 0, o = (v >> 2) * w; u < FINE * w; u++, i++) this.fine[i] = this.given[o + (u >> 2)];
  }

  /** Puts back into every pixel what it holds too little of, or takes out what it holds too much of, smoothly. */
  addMissing(times: number): void {
    const { w, h, given, off, fine } = this;
    const wide = FINE * w;
    const row = new Float32Array(w + 2); // with the first and the last once more beyond either end
    for (let n = 0; n < times; n++) {
      off.fill(0);
      for (let v = 0, i = 0; v < FINE * h; v++)
        for (let u = 0, o = (v >> 2) * w; u < w; u++, o++, i += FINE)
          off[o] += (fine[i] + fine[i + 1] + fine[i + 2] + fine[i + 3]) / (FINE * FINE);
      if (this.blur > 0) this.spreadOut(off);
      for (let o = 0; o < off.length; o++) off[o] = given[o] - off[o];
      for (let v = 0, i = 0; v < FINE * h; v++) {
        const above = Math.max(0, (v - 2) >> 2) * w;
        const below = Math.min(h - 1, (v + 2) >> 2) * w;
        const share = SHARES[v & 3];
        for (let u = 0; u < w; u++) row[u + 1] = off[above + u] + (off[below + u] - off[above + u]) * share;
        row[0] = row[1];
        row[w + 1] = row[w];
        for (let u = 0; u < wide; u++, i++) {
          const at = (u + 2) >> 2;
          const next = fine[i] + row[at] + (row[at + 1] - row[at]) * SHARES[u & 3];
          fine[i] = Math.min(1, Math.max(0, next));
        }
      }
    }
  }

  /** What a lens does to it: each pixel gives a share to those beside it. */
  private spreadOut(plane: Float32Array): void {
    const { w, h, blur, coarse } = this;
    const own = 1 - 2 * blur;
    for (let y = 0; y < h; y++)
      for (let x = 0, o = y * w; x < w; x++, o++)
        coarse[o] = own * plane[o] + blur * (plane[x > 0 ? o - 1 : o] + plane[x + 1 < w ? o + 1 : o]);
    for (let y = 0, o = 0; y < h; y++)
      for (let x = 0; x < w; x++, o++)
        plane[o] = own * coarse[o] + blur * (coarse[y > 0 ? o - w : o] + coarse[y + 1 < h ? o + w : o]);
  }

  /** Evens the ink out over a fine pixel. */
  even(): void {
    const { fine, spare } = this;
    const [wide, high] = [FINE * this.w, FINE * this.h];
    evenRows(fine, spare, wide, high);
    evenColumns(spare, fine, wide, high);
  }

  /** Draws ink and paper apart, at half of what is darkest near by. */
  tellApart(least: number): void {
    const { fine, spare, most } = this;
    const [wide, high] = [FINE * this.w, FINE * this.h];
    mostInRows(fine, spare, wide, high);
    mostInColumns(spare, most, wide, high);
    for (let i = 0; i < fine.length; i++) {
      const level = Math.min(0.5, Math.max(least, 0.5 * most[i]));
      fine[i] = Math.min(1, Math.max(0, 0.5 + GAIN * (fine[i] - level)));
    }
  }

  /** Writes the square itself, without what lies beside it. */
  write(out: Gray): void {
    const { x, y, w, left, top, fine } = this;
    const [right, bottom] = [
      Math.min(out.width, FINE * (left + TILE)),
      Math.min(out.height, FINE * (top + TILE)),
    ];
    for (let v = FINE * top; v < bottom; v++)
      for (let u = FINE * left; u < right; u++)
        out.data[v * out.width + u] = 255 - Math.round(255 * fine[(v - FINE * y) * FINE * w + u - FINE * x]);
  }
}

/** How far a fine pixel's middle is from the one of the two nearest pixels' middles on to the other. */
const SHARES = Float32Array.from([0.625, 0.875, 0.125, 0.375]);

/** The kernel along rows. Beyond an edge it goes on as it is there. */
function evenRows(from: Float32Array, to: Float32Array, wide: number, high: number): void {
  const [k0, k1, k2] = KERNEL;
  const last = wide - 1;
  for (let v = 0, row = 0; v < high; v++, row += wide) {
    for (let u = 2, i = row + 2; u < wide - 2; u++, i++)
      to[i] = k0 * (from[i - 2] + from[i + 2]) + k1 * (from[i - 1] + from[i + 1]) + k2 * from[i];
    for (const u of [0, 1, last - 1, last]) {
      const at = (by: number): number => from[row + Math.min(last, Math.max(0, u + by))];
      to[row + u] = k0 * (at(-2) + at(2)) + k1 * (at(-1) + at(1)) + k2 * at(0);
    }
  }
}

/** The kernel along columns. */
function evenColumns(from: Float32Array, to: Float32Array, wide: number, high: number): void {
  const [k0, k1, k2] = KERNEL;
  for (let v = 0; v < high; v++) {
    const rowAt = (by: number): number => wide * Math.min(high - 1, Math.max(0, v + by));
    const [a, b, c, d, e] = [rowAt(-2), rowAt(-1), rowAt(0), rowAt(1), rowAt(2)];
    for (let u = 0; u < wide; u++)
      to[c + u] = k0 * (from[a + u] + from[e + u]) + k1 * (from[b + u] + from[d + u]) + k2 * from[c + u];
  }
}

/** The greatest of `NEAR`, 3, to either side, along rows: of two, of four of them, of seven. */
function mostInRows(from: Float32Array, to: Float32Array, wide: number, high: number): void {
  const own = new Float32Array(wide + 2 * NEAR);
  for (let v = 0, row = 0; v < high; v++, row += wide) {
    own.set(from.subarray(row, row + wide), NEAR);
    for (let u = 0; u < wide + 5; u++) own[u] = Math.max(own[u], own[u + 1]);
    for (let u = 0; u < wide + 3; u++) own[u] = Math.max(own[u], own[u + 2]);
    for (let u = 0; u < wide; u++) to[row + u] = Math.max(own[u], own[u + 3]);
    own.fill(0, wide, wide + 2 * NEAR);
    own.fill(0, 0, NEAR);
  }
}

/** The same along columns. */
function mostInColumns(from: Float32Array, to: Float32Array, wide: number, high: number): void {
  for (let v = 0; v < high; v++) {
    const row = v * wide;
    for (let u = 0; u < wide; u++) to[row + u] = from[row + u];
    for (let y = Math.max(0, v - NEAR); y <= Math.min(high - 1, v + NEAR); y++) {
      if (y === v) continue;
      for (let u = 0, i = row, j = y * wide; u < wide; u++, i++, j++) to[i] = Math.max(to[i], from[j]);
    }
  }
}
