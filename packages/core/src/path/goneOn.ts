/** A closed line and, once more, so much of its beginning. */
export function goneOn(points: Float64Array, byMm: number): Float64Array {
  const out = Array.from(points);
  for (let k = 2, left = byMm; k < points.length && left > 0; k += 2) {
    const [dx, dy] = [points[k] - points[k - 2], points[k + 1] - points[k - 1]];
    const length = Math.sqrt(dx * dx + dy * dy);
    const share = length > left ? left / length : 1;
    out.push(points[k - 2] + dx * share, points[k - 1] + dy * share);
    left -= length;
  }
  return Float64Array.from(out);
}
