/** A plane of numbers, rows top to bottom. */
type Plane = Float32Array;

/** For each pixel a straight line from its colour to its cover: cover = r c[0] + g c[1] + b c[2] + c[3]. */
export interface Lines {
  readonly width: number;
  readonly height: number;
  /** Four numbers a pixel. */
  readonly line: Float32Array;
}

/**
 * Guided filter of a cover plane by a colour picture, with weights: within every window of 2 radius + 1 pixels the
 * cover that fits the colours best as a straight line of them, the lines then averaged.
 *
 * @param guide    red, green, blue 0..1, a plane each
 * @param cover    0..1
 * @param weight   how much each pixel's cover is trusted, above 0
 * @param wanted   1 where the lines are needed
 * @param smooth   how much contrast counts as noise, squared (the paper's epsilon)
 * @see He, Sun & Tang, "Guided Image Filtering", IEEE PAMI 35, 2013
 */
export function guidedLines(
  width: number,
  height: number,
  guide: readonly [Plane, Plane, Plane],
  cover: Plane,
  weight: Plane,
  wanted: Uint8Array,
  radius: number,
  smooth: number,
): Lines {
  const count = width * height;
  const mean = (value: (i: number) => number): Plane => {
    const plane = new Float32Array(count);
    for (let i = 0; i < count; i++) plane[i] = value(i);
    return boxSum(plane, width, height, radius);
  };
  const [r, g, b] = guide;
  const w = mean((i) => weight[i]);
  const [mr, mg, mb] = guide.map((p) => mean((i) => weight[i] * p[i]));
  const mp = mean((i) => weight[i] * cover[i]);
  const [pr, pg, pb] = guide.map((p) => mean((i) => weight[i] * p[i] * cover[i]));
  const rr = mean((i) => weight[i] * r[i] * r[i]);
  const rg = mean((i) => weight[i] * r[i] * g[i]);
  const rb = mean((i) => weight[i] * r[i] * b[i]);
  const gg = mean((i) => weight[i] * g[i] * g[i]);
  const gb = mean((i) => weight[i] * g[i] * b[i]);
  const bb = mean((i) => weight[i] * b[i] * b[i]);
  const near = boxSum(Float32Array.from(wanted), width, height, radius);
  const coefficients = Array.from({ length: 4 }, () => new Float32Array(count));
  const trusted = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    if (near[i] === 0) continue;
    const n = 1 / w[i];
    const [ar, ag, ab, ap] = [mr[i] * n, mg[i] * n, mb[i] * n, mp[i] * n];
    const a = rr[i] * n - ar * ar + smooth;
    const bq = rg[i] * n - ar * ag;
    const c = rb[i] * n - ar * ab;
    const d = gg[i] * n - ag * ag + smooth;
    const e = gb[i] * n - ag * ab;
    const f = bb[i] * n - ab * ab + smooth;
    const [vr, vg, vb] = [pr[i] * n - ar * ap, pg[i] * n - ag * ap, pb[i] * n - ab * ap];
    const [A, B, C] = [d * f - e * e, c * e - bq * f, bq * e - c * d];
    const det = 1 / (a * A + bq * B + c * C);
    const [D, E, F] = [a * f - c * c, bq * c - a * e, a * d - bq * bq];
    const kr = (A * vr + B * vg + C * vb) * det;
    const kg = (B * vr + D * vg + E * vb) * det;
    const kb = (C * vr + E * vg + F * vb) * det;
    coefficients[0][i] = kr;
    coefficients[1][i] = kg;
    coefficients[2][i] = kb;
    coefficients[3][i] = ap - kr * ar - kg * ag - kb * ab;
    trusted[i] = 1;
  }
  const windows = boxSum(trusted, width, height, radius);
  const line = new Float32Array(count * 4);
  coefficients.forEach((plane, k) => {
    const sum = boxSum(plane, width, height, radius);
    for (let i = 0; i < count; i++) if (windows[i] > 0) line[i * 4 + k] = sum[i] / windows[i];
  });
  return { width, height, line };
}

/** Sum over the window of 2 radius + 1 pixels each way; the window is cut off at the picture's edge. */
export function boxSum(plane: Plane, width: number, height: number, radius: number): Plane {
  const across = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const start = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(radius, width); x++) sum += plane[start + x];
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += plane[start + x + radius];
      if (x > radius) sum -= plane[start + x - radius - 1];
      across[start + x] = sum;
    }
  }
  const out = new Float32Array(plane.length);
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(radius, height); y++)
    for (let x = 0; x < width; x++) sums[x] += across[y * width + x];
  for (let y = 0; y < height; y++) {
    const [enter, leave] = [(y + radius) * width, (y - radius - 1) * width];
    if (y + radius < height) for (let x = 0; x < width; x++) sums[x] += across[enter + x];
    if (y > radius) for (let x = 0; x < width; x++) sums[x] -= across[leave + x];
    for (let x = 0, o = y * width; x < width; x++, o++) out[o] = sums[x];
  }
  return out;
}
