export type CurvePoint = readonly [number, number];

/**
 * The monotone cubic curve through `points`, as a function of 0..1. Before the first and after the last point it
 * is level; between two points it never leaves the span of their values.
 *
 * @param points  at least two, first coordinates strictly rising, all within 0..1
 * @see Fritsch & Carlson, "Monotone Piecewise Cubic Interpolation", SIAM J. Numer. Anal. 17, 1980
 */
export function curveThrough(points: readonly CurvePoint[]): (x: number) => number {
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
  return (x) => {
    if (x <= points[0][0]) return points[0][1];
    if (x >= points[n - 1][0]) return points[n - 1][1];
    let i = 0;
    while (x > points[i + 1][0]) i++;
    const [x0, y0] = points[i];
    const [x1, y1] = points[i + 1];
    const h = x1 - x0;
    const t = (x - x0) / h;
    const u = 1 - t;
    return (
      y0 * (1 + 2 * t) * u * u +
      tangent[i] * h * t * u * u +
      y1 * t * t * (3 - 2 * t) -
      tangent[i + 1] * h * t * t * u
    );
  };
}

/** The curve at `count` even steps of 0..1. */
export function monotoneCurve(points: readonly CurvePoint[], count: number): Float64Array {
  const curve = curveThrough(points);
  return Float64Array.from({ length: count }, (_, k) => curve(k / (count - 1)));
}
