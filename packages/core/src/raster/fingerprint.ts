import { sha256 } from "@noble/hashes/sha256";
import { bytesToHex } from "@noble/hashes/utils";

/** SHA-256 of bytes or UTF-8 text, as 64 hexadecimal digits. */
export function fingerprint(content: Uint8Array | string): string {
  return bytesToHex(sha256(content));
}
