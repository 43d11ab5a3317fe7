/**
 * Numbers 0..1 by chance, the same ones for the same seed on every machine.
 * @see Park & Miller, "Random number generators: good ones are hard to find", Comm. ACM 31, 1988
 */
export function seeded(seed: number): () => number {
  let state = seed || 1;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}
