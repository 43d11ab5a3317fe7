/** Solves a small set of linear equations by elimination with pivoting; null where they do not tell. Both are used up. */
export function solved(rows: Float64Array[], right: Float64Array): Float64Array | null {
  const n = right.length;
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r][c]) > Math.abs(rows[pivot][c])) pivot = r;
    if (!(Math.abs(rows[pivot][c]) > 1e-300)) return null;
    [rows[c], rows[pivot]] = [rows[pivot], rows[c]];
    [right[c], right[pivot]] = [right[pivot], right[c]];
    for (let r = c + 1; r < n; r++) {
      const by = rows[r][c] / rows[c][c];
      if (by === 0) continue;
      for (let k = c; k < n; k++) rows[r][k] -= by * rows[c][k];
      right[r] -= by * right[c];
    }
  }
  const out = new Float64Array(n);
  for (let r = n - 1; r >= 0; r--) {
    let sum = right[r];
    for (let k = r + 1; k < n; k++) sum -= rows[r][k] * out[k];
    out[r] = sum / rows[r][r];
  }
  return out;
}

/** Step by which a number is varied to see what hangs on it, as a share of its scale. */
const STEP = 1e-6;
const MOST_STEPS = 200;

/**
 * Numbers for which what is off is least, in the sense of least squares.
 * @param scales  how large a change of each number is worth looking at
 * @see Levenberg, "A method for the solution of certain non-linear problems in least squares", 1944; Marquardt, 1963
 */
export function leastOff(
  start: readonly number[],
  scales: readonly number[],
  off: (p: Float64Array) => Float64Array,
): Float64Array {
  let best = Float64Array.from(start);
  let residuals = off(best);
  let least = squares(residuals);
  let damping = 1e-3;
  for (let step = 0; step < MOST_STEPS; step++) {
    const slopes = scales.map((scale, k) => {
      const moved = best.slice();
      moved[k] += STEP * scale;
      return off(moved).map((v, i) => (v - residuals[i]) / STEP);
    });
    const right = Float64Array.from(slopes, (s) => -s.reduce((sum, v, i) => sum + v * residuals[i], 0));
    let moved = false;
    for (let tries = 0; tries < 12 && !moved; tries++) {
      const rows = slopes.map((a, j) =>
        Float64Array.from(
          slopes,
          (b, k) =>
            a.reduce((sum, v, i) => sum + v * b[i], 0) * (j === k ? 1 + damping : 1) + (j === k ? 1e-12 : 0),
        ),
      );
      const by = solved(rows, right.slice());
      const next = by && best.map((v, k) => v + by[k] * scales[k]);
      const there = next && off(next);
      const sum = there ? squares(there) : Infinity;
      if (next && there && sum < least) {
        const gained = (least - sum) / least;
        [best, residuals, least, damping, moved] = [next, there, sum, Math.max(1e-12, damping / 8), true];
        if (gained < 1e-12) return best;
      } else damping *= 6;
    }
    if (!moved || least < 1e-18) return best;
  }
  return best;
}

const squares = (of: Float64Array): number => {
  const sum = of.reduce((s, v) => s + v * v, 0);
  return Number.isFinite(sum) ? sum : Infinity;
};
