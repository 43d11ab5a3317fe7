export type CurvePoint = readonly [number, number];

/**
 * Values of the monotone cubic curve through `points`, sampled at `count` even steps of 0..1.
 * Before the first and after the last point the curve is level.
 *
 * @param points  at least two, first coordinates strictly rising, all within 0..1
 * @returns       `count` values; between two points never outside the span of their values
 * @see Fritsch & Carlson, "Monotone Piecewise Cubic Interpolation", SIAM J. Numer. Anal. 17, 1980
 */
export function monotoneCurve(points: readonly CurvePoint[], count: number): Float64Array {
  const n = points.length;
  const slope = new Float64Array(n - 1);
  for (let i = 0; i < n - 1; i++) {
    slope[i] = (points[i + 1][1] - points[i][1]) / (points[i + 1][0] - points[i][0]);
  }
  const tangent = new Float64Array(n);
  tangent[0] = slope[0];
  tangent[n - 1] = slope[n - 2];
  for (let i = 1; i < n - 1; i++) {
    tangent[i] = slope[i - 1] * slope[i] <= 0 ? 0 : (slope[i - 1] + slope[i]) / 2;
  }
  for (let i = 0; i < n - 1; i++) {
    if (slope[i] === 0) {
      tangent[i] = tangent[i + 1] = 0;
      continue;
    }
    const a = tangent[i] / slope[i];
    const b = tangent[i + 1] / slope[i];
    const length = a * a + b * b;
    if (length > 9) {
      const shrink = 3 / Math.sqrt(length);
      tangent[i] = shrink * a * slope[i];
      tangent[i + 1] = shrink * b * slope[i];
    }
  }
  const values = new Float64Array(count);
  let i = 0;
  for (let k = 0; k < count; k++) {
    const x = k / (count - 1);
    if (x <= points[0][0]) values[k] = points[0][1];
    else if (x >= points[n - 1][0]) values[k] = points[n - 1][1];
    else {
      while (x > points[i + 1][0]) i++;
      const [x0, y0] = points[i];
      const [x1, y1] = points[i + 1];
      const h = x1 - x0;
      const t = (x - x0) / h;
      const u = 1 - t;
      values[k] =
        y0 * (1 + 2 * t) * u * u + tangent[i] * h * t * u * u + y1 * t * t * (3 - 2 * t) - tangent[i + 1] * h * t * t * u;
    }
  }
  return values;
}
