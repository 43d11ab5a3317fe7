/**
 * Sum of rows, each times its weight, written over `out`. Rows are taken four at a time, so that `out` is read
 * and written a quarter as often.
 *
 * @param rows     at least as long as `out` each
 * @param weights  weight of row k at `from + k`
 */
export function weightedSum(
  rows: readonly Float64Array[],
  weights: ArrayLike<number>,
  from: number,
  out: Float64Array,
): void {
  const count = rows.length;
  let k = 0;
  if (count >= 4) {
    set4(
      out,
      rows[0],
      weights[from],
      rows[1],
      weights[from + 1],
      rows[2],
      weights[from + 2],
      rows[3],
      weights[from + 3],
    );
    k = 4;
  } else out.fill(0);
  for (; k + 3 < count; k += 4) {
    const w = from + k;
    add4(
      out,
      rows[k],
      weights[w],
      rows[k + 1],
      weights[w + 1],
      rows[k + 2],
      weights[w + 2],
      rows[k + 3],
      weights[w + 3],
    );
  }
  for (; k < count; k++) add1(out, rows[k], weights[from + k]);
}

type Row = Float64Array;

function set4(
  out: Row,
  a: Row,
  wa: number,
  b: Row,
  wb: number,
  c: Row,
  wc: number,
  d: Row,
  wd: number,
): void {
  for (let x = 0; x < out.length; x++) out[x] = a[x] * wa + b[x] * wb + c[x] * wc + d[x] * wd;
}

function add4(
  out: Row,
  a: Row,
  wa: number,
  b: Row,
  wb: number,
  c: Row,
  wc: number,
  d: Row,
  wd: number,
): void {
  for (let x = 0; x < out.length; x++) out[x] += a[x] * wa + b[x] * wb + c[x] * wc + d[x] * wd;
}

function add1(out: Row, a: Row, wa: number): void {
  for (let x = 0; x < out.length; x++) out[x] += a[x] * wa;
}
