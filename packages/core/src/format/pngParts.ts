/** The eight bytes that every PNG begins with. */
export const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];

export function concat(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
