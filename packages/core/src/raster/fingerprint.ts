import { sha256 } from "@noble/hashes/sha256";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { type Bits } from "./types";

/** SHA-256 of bytes or UTF-8 text, as 64 hexadecimal digits. */
export function fingerprint(content: Uint8Array | string): string {
  return bytesToHex(sha256(content));
}

/** Fingerprint of a bitmap's size and dots, whatever file they are written to. */
export function dotsFingerprint({ width, height, data }: Bits): string {
  const hash = sha256.create();
  hash.update(utf8ToBytes(`${width} x ${height}\n`));
  hash.update(data);
  return bytesToHex(hash.digest());
}
