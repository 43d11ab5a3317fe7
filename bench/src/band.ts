/** The band about the true edge: everything within so many pixels of a part-covered one, counted along rows and columns. */
export function bandAbout(alpha: Uint8Array, width: number, height: number, reach = 12): Uint8Array {
  const across = new Uint8Array(alpha.length);
  const band = new Uint8Array(alpha.length);
  const spread = (
    from: Uint8Array,
    to: Uint8Array,
    length: number,
    count: number,
    at: (n: number, k: number) => number,
  ) => {
    for (let n = 0; n < count; n++)
      for (let k = 0, last = -Infinity, next = 0; k < length; k++) {
        if (from[at(n, k)]) last = k;
        if (next < k) next = k;
        while (next < length && !from[at(n, next)]) next++;
        if (k - last <= reach || next - k <= reach) to[at(n, k)] = 1;
      }
  };
  const edge = alpha.map((a) => (a > 0 && a < 255 ? 1 : 0));
  spread(edge, across, width, height, (n, k) => n * width + k);
  spread(across, band, height, width, (n, k) => k * width + n);
  return band;
}
