import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";

const FOLDER = join(__dirname, "../../../packages/intake/src/testing/phones");

/** Sound pictures as phones store them. */
export const soundPhones = (): Record<string, Buffer> =>
  Object.fromEntries(
    readdirSync(FOLDER)
      .filter((name) => /\.(heic|avif|jxl)$/.test(name))
      .map((name) => [name, readFileSync(join(FOLDER, name))]),
  );

/** A box of such a file. */
function box(type: string, ...parts: readonly Uint8Array[]): Buffer {
  const body = Buffer.concat([Buffer.from(type, "latin1"), ...parts]);
  const size = Buffer.alloc(4);
  size.writeUInt32BE(body.length + 4);
  return Buffer.concat([size, body]);
}

const NAMES = box("ftyp", Buffer.from("heic\0\0\0\0mif1heic", "latin1"));

/** Pictures that say more than there is, or lie within themselves. */
export function hostilePhones(): Record<string, Buffer> {
  const plain = soundPhones()["plain.heic"];
  const saying = (width: number, height: number): Buffer => {
    const changed = Buffer.from(plain);
    for (let at = changed.indexOf("ispe"); at >= 0; at = changed.indexOf("ispe", at + 4)) {
      changed.writeUInt32BE(width, at + 8);
      changed.writeUInt32BE(height, at + 12);
    }
    return changed;
  };
  const nested = (depth: number): Buffer => {
    let inner = box("free");
    for (let k = 0; k < depth; k++) inner = box("meta", Buffer.alloc(4), inner);
    return Buffer.concat([NAMES, inner]);
  };
  const long = (size: bigint): Buffer => {
    const head = Buffer.from("\0\0\0\u0001meta\0\0\0\0\0\0\0\0", "latin1");
    head.writeBigUInt64BE(size, 8);
    return Buffer.concat([NAMES, head, Buffer.alloc(64)]);
  };
  const jxl = (...bits: number[]): Buffer => Buffer.from([0xff, 0x0a, ...bits]);
  return {
    "says 60000 x 60000.heic": saying(60000, 60000),
    "says 2^32 wide.heic": saying(0xffffffff, 1),
    "says 0 x 0.heic": saying(0, 0),
    "says 12000 x 12000.heic": saying(12000, 12000),
    "nested 5000 deep.heic": nested(5000),
    "nested 20 deep.heic": nested(20),
    "a box of 2^63.heic": long(1n << 63n),
    "a box of nothing.heic": long(0n),
    "names alone.heic": NAMES,
    "a million names.heic": box("ftyp", Buffer.alloc(4_000_000, "heic")),
    "says 2^30 x 2^30.jxl": jxl(0xfe, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff),
    "a head alone.jxl": jxl(),
    "boxes alone.jxl": Buffer.concat([Buffer.from("\0\0\0\u000cJXL \r\n\u0087\n", "latin1"), box("jxlc")]),
  };
}
