/** In place: the discrete Fourier transform of a line of complex numbers, their count a power of two. */
function transform(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j], re[i]];
      [im[i], im[j]] = [im[j], im[i]];
    }
  }
  for (let size = 2; size <= n; size <<= 1) {
    const step = (-2 * Math.PI) / size;
    for (let k = 0; k < size / 2; k++) {
      const [c, s] = [Math.cos(step * k), Math.sin(step * k)];
      for (let a = k; a < n; a += size) {
        const b = a + size / 2;
        const [tr, ti] = [re[b] * c - im[b] * s, re[b] * s + im[b] * c];
        [re[b], im[b]] = [re[a] - tr, im[a] - ti];
        [re[a], im[a]] = [re[a] + tr, im[a] + ti];
      }
    }
  }
}

export interface Peak {
  /** Cycles a dot. */
  readonly frequency: number;
  /** Degrees, counter-clockwise from the x axis, 0..180. */
  readonly angle: number;
}

/**
 * The strongest regular wave in a square of numbers: found on the transform's grid under a Hann window, then between its
 * points by climbing.
 * @param least, most  frequencies looked at, in cycles a dot
 */
export function strongestWave(values: Float64Array, side: number, least: number, most: number): Peak {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const hann = Float64Array.from(
    { length: side },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / side),
  );
  const shown = values.map((v, i) => (v - mean) * hann[i % side] * hann[Math.floor(i / side)]);
  const re = shown.slice();
  const im = new Float64Array(values.length);
  for (let y = 0; y < side; y++)
    transform(re.subarray(y * side, (y + 1) * side), im.subarray(y * side, (y + 1) * side));
  const [cr, ci] = [new Float64Array(side), new Float64Array(side)];
  for (let x = 0; x < side; x++) {
    for (let y = 0; y < side; y++) [cr[y], ci[y]] = [re[y * side + x], im[y * side + x]];
    transform(cr, ci);
    for (let y = 0; y < side; y++) [re[y * side + x], im[y * side + x]] = [cr[y], ci[y]];
  }
  let best = [0, 0, 0];
  for (let v = 0; v < side; v++)
    for (let u = 0; u <= side / 2; u++) {
      const [fx, fy] = [u / side, (v < side / 2 ? v : v - side) / side];
      const f = Math.hypot(fx, fy);
      if (f < least || f > most) continue;
      const power = re[v * side + u] ** 2 + im[v * side + u] ** 2;
      if (power > best[2]) best = [fx, fy, power];
    }
  const powerAt = (fx: number, fy: number): number => {
    let [r, i] = [0, 0];
    for (let y = 0; y < side; y++) {
      let [rr, ri] = [0, 0];
      for (let x = 0; x < side; x++) {
        const a = 2 * Math.PI * fx * x;
        rr += shown[y * side + x] * Math.cos(a);
        ri -= shown[y * side + x] * Math.sin(a);
      }
      const [c, s] = [Math.cos(2 * Math.PI * fy * y), -Math.sin(2 * Math.PI * fy * y)];
      r += rr * c - ri * s;
      i += rr * s + ri * c;
    }
    return r * r + i * i;
  };
  let [fx, fy, power] = best;
  for (let step = 0.5 / side; step > 0.01 / side; step /= 2)
    for (let moved = true; moved;) {
      moved = false;
      for (const [dx, dy] of [
        [step, 0],
        [-step, 0],
        [0, step],
        [0, -step],
      ]) {
        const p = powerAt(fx + dx, fy + dy);
        if (p > power) {
          [fx, fy, power] = [fx + dx, fy + dy, p];
          moved = true;
          break;
        }
      }
    }
  const angle = (Math.atan2(-fy, fx) * 180) / Math.PI;
  return { frequency: Math.hypot(fx, fy), angle: ((angle % 180) + 180) % 180 };
}
