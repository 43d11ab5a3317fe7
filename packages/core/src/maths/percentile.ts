/** The bin below which a share of all counts lies. */
export function percentile(counts: Float64Array | Uint16Array, share: number): number {
  let total = 0;
  for (const count of counts) total += count;
  let sum = 0;
  for (let bin = 0; bin < counts.length; bin++) {
    sum += counts[bin];
    if (sum >= share * total && sum > 0) return bin;
  }
  return counts.length - 1;
}
