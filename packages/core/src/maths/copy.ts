import { type Work } from "./work";

/** Bytes copied between two slices: a few milliseconds, most of them for pages that are touched first. */
const AT_ONCE = 1 << 22;

/** A copy of a large array, made in slices. */
export function* copied(from: Uint8Array): Work<Uint8Array> {
  const out = new Uint8Array(from.length);
  for (let at = 0; at < from.length; at += AT_ONCE) {
    yield at / from.length;
    out.set(from.subarray(at, at + AT_ONCE), at);
  }
  return out;
}
