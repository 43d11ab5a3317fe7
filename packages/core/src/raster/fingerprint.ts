import { sha256 } from "@noble/hashes/sha256";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { type Work } from "../maths/work";
import { type Bits } from "./types";

/** SHA-256 of bytes or UTF-8 text, as 64 hexadecimal digits. */
export function fingerprint(content: Uint8Array | string): string {
  return bytesToHex(sha256(content));
}

/** Bytes between two slices: some ten milliseconds of hashing. */
const AT_ONCE = 1 << 20;

/** As `fingerprint`, of bytes that are many. @param before  text that is hashed first */
export function* longFingerprint(bytes: Uint8Array, before = ""): Work<string> {
  const hash = sha256.create();
  hash.update(utf8ToBytes(before));
  for (let at = 0; at < bytes.length; at += AT_ONCE) {
    yield at / bytes.length;
    hash.update(bytes.subarray(at, at + AT_ONCE));
  }
  return bytesToHex(hash.digest());
}

/** As `fingerprint`, of text that is made piece by piece. */
export function* textFingerprint(pieces: readonly (() => string)[]): Work<string> {
  const hash = sha256.create();
  for (const [k, piece] of pieces.entries()) {
    if (k > 0) yield k / pieces.length;
    hash.update(utf8ToBytes(piece()));
  }
  return bytesToHex(hash.digest());
}

/** Fingerprint of a bitmap's size and dots, whatever file they are written to. */
export const dotsFingerprint = ({ width, height, data }: Bits): Work<string> =>
  longFingerprint(data, `${width} x ${height}\n`);
