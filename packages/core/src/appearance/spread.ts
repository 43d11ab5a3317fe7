import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { newGray, type Bits, type Gray } from "../raster/types";

/** Points along a dot's side at which it is looked whether a spread mark covers it. */
const FINE = 24;

/**
 * Marks as they come out when each spreads beyond its dot by so much all round: for every dot how much of it stays bare,
 * 255 = all. A mark's dot is a square that grows by a disc; what several neighbours cover together counts once.
 *
 * @param spread  in dots, 0..1; more is taken as one
 */
export function* spreadMarks(bits: Bits, spread: number): Work<Gray> {
  const { width, height } = bits;
  const out = newGray(width, height);
  const table = bareLeft(Math.min(1, Math.max(0, spread)));
  const blank = () => new Uint8Array(width + 2);
  let [above, row, below] = [blank(), blank(), blank()];
  unpackRow(bits, 0, below.subarray(1));
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    [above, row, below] = [row, below, above];
    if (y + 1 < height) unpackRow(bits, y + 1, below.subarray(1));
    else below.fill(0);
    // Columns of three, the leftmost in the highest bits.
    let around = (above[0] << 2) | (row[0] << 1) | below[0];
    around = (around << 3) | (above[1] << 2) | (row[1] << 1) | below[1];
    for (let x = 0; x < width; x++, i++) {
      around = ((around << 3) | (above[x + 2] << 2) | (row[x + 2] << 1) | below[x + 2]) & 511;
      out.data[i] = table[around];
    }
  }
  return out;
}

const tables = new Map<number, Uint8Array>();

/** For each of the 512 neighbourhoods of a dot, how much of it is left bare. */
function bareLeft(spread: number): Uint8Array {
  const name = Math.round(spread * 1000);
  const known = tables.get(name);
  if (known) return known;
  // Which of the points each neighbour reaches.
  const reached = Array.from({ length: 9 }, (_, k) => {
    const [dx, dy] = [Math.floor(k / 3) - 1, (k % 3) - 1];
    return Array.from({ length: FINE * FINE }, (_, p) => {
      const [x, y] = [((p % FINE) + 0.5) / FINE, (Math.floor(p / FINE) + 0.5) / FINE];
      const [ox, oy] = [Math.max(0, dx - x, x - dx - 1), Math.max(0, dy - y, y - dy - 1)];
      return ox * ox + oy * oy <= spread * spread && (ox + oy > 0 || k === 4);
    });
  });
  const table = new Uint8Array(512);
  for (let around = 0; around < 512; around++) {
    let bare = 0;
    for (let p = 0; p < FINE * FINE; p++) {
      let covered = false;
      for (let k = 0; k < 9 && !covered; k++) covered = ((around >> (8 - k)) & 1) === 1 && reached[k][p];
      if (!covered) bare++;
    }
    table[around] = Math.round((255 * bare) / (FINE * FINE));
  }
  if (tables.size > 32) tables.clear();
  tables.set(name, table);
  return table;
}

/** The rows of a bitmap from one to before another, as a bitmap of their own. */
export function rowsBetween(bits: Bits, from: number, to: number): Bits {
  const { width, stride, data } = bits;
  return { width, height: to - from, stride, data: data.subarray(from * stride, to * stride) };
}
