/**
 * A closed line with as few of its corners as one walk along it finds to be enough: from each corner kept, the next lies as
 * far on as a straight piece passes all between within a distance. Takes a moment for a hundred thousand corners; the
 * fewest there could be are not looked for.
 *
 * @param ring    x, y of every corner; the last joins the first again
 * @param within  how far a left out corner may lie off, in the same unit, above 0
 * @see Williams, "An efficient algorithm for the piecewise linear approximation of planar curves", CGIP 8, 1978
 */
export function fewerCorners(ring: Float64Array, within: number): Float64Array {
  const count = ring.length / 2;
  if (count < 4) return ring;
  const out = new Float64Array(ring.length);
  let kept = 1;
  [out[0], out[1]] = [ring[0], ring[1]];
  let [fromX, fromY] = [ring[0], ring[1]];
  // Directions that pass all corners since the last that was kept lie from the right one to the left one.
  let [rightX, rightY, leftX, leftY] = [0, 0, 0, 0];
  let isOpen = true;
  let farthest = 0;
  for (let k = 1; k <= count; k++) {
    const at = k === count ? 0 : 2 * k;
    const [dx, dy] = [ring[at] - fromX, ring[at + 1] - fromY];
    const long = Math.hypot(dx, dy);
    const passes =
      isOpen || (rightX * dy - rightY * dx >= 0 && leftX * dy - leftY * dx <= 0 && long >= farthest);
    if (!passes) {
      const last = k - 1;
      [fromX, fromY] = [ring[2 * last], ring[2 * last + 1]];
      [out[2 * kept], out[2 * kept + 1]] = [fromX, fromY];
      kept++;
      isOpen = true;
      farthest = 0;
      k--;
      continue;
    }
    farthest = Math.max(farthest, long);
    if (long <= within) continue;
    // The circle about this corner is seen within so much to either side.
    const sine = within / long;
    const cosine = Math.sqrt(1 - sine * sine);
    const [ux, uy] = [dx / long, dy / long];
    const [rx, ry] = [ux * cosine + uy * sine, uy * cosine - ux * sine];
    const [lx, ly] = [ux * cosine - uy * sine, uy * cosine + ux * sine];
    if (isOpen || rightX * ry - rightY * rx > 0) [rightX, rightY] = [rx, ry];
    if (isOpen || leftX * ly - leftY * lx < 0) [leftX, leftY] = [lx, ly];
    isOpen = false;
  }
  return kept < 3 ? ring : out.slice(0, 2 * kept);
}
