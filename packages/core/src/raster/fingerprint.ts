import { sha256 } from "@noble/hashes/sha256";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { type Work } from "../maths/work";
import { type Bits } from "./types";

/** SHA-256 of bytes or UTF-8 text, as 64 hexadecimal digits. */
export function fingerprint(content: Uint8Array | string): string {
  return bytesToHex(sha256(content));
}

/** Bytes between two portions: some ten milliseconds of hashing. */
const AT_ONCE = 1 << 20;

/** Fingerprint of a bitmap's size and dots, whatever file they are written to. */
export function* dotsFingerprint({ width, height, data }: Bits): Work<string> {
  const hash = sha256.create();
  hash.update(utf8ToBytes(`${width} x ${height}\n`));
  for (let at = 0; at < data.length; at += AT_ONCE) {
    yield at / data.length;
    hash.update(data.subarray(at, at + AT_ONCE));
  }
  return bytesToHex(hash.digest());
}
