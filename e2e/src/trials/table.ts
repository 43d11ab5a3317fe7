/** Prints rows under a heading, columns as wide as they need. */
export function printTable(
  title: string,
  head: readonly string[],
  rows: readonly (readonly (string | number)[])[],
): void {
  const all = [head, ...rows.map((r) => r.map(String))];
  const widths = head.map((_, k) => Math.max(...all.map((r) => r[k].length)));
  console.log(`\n${title}`);
  for (const row of all)
    console.log(row.map((v, k) => (k ? v.padStart(widths[k]) : v.padEnd(widths[k]))).join("  "));
}

export const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? 0;

export const sleep = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

/** Numbers by chance that come the same each time. */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x9e3779b9) >>> 0;
    let t = Math.imul(state ^ (state >>> 12), 0x297a2d39);
    t ^= t >>> 15;
    return (t >>> 0) / 2 ** 32;
  };
}
