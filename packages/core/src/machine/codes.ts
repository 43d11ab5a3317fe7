/*
 * Single bytes that a machine acts on as they arrive, before whatever waits in its queue: control characters as ECMA-48
 * means them. In bytes that are no text they are marked, so that none is taken for one.
 */

/** ENQ: how is it? Also the sign of life without which a machine puts its beam off. */
export const ENQUIRY = 0x05;
/** DC3, "wait, pause, stand-by or halt": beam off, stand still, forget what waits. */
export const PAUSE = 0x13;
/** DC4, "stop": the same, and the run is over. */
export const STOP = 0x14;
/** DLE: the next byte is meant as data, with this bit turned. */
const ESCAPE = 0x10;
const TURNED = 0x40;

/** A machine that hears nothing for so long puts its beam off by itself. */
export const SILENCE_MS = 2000;

const isCode = (byte: number): boolean =>
  byte === ENQUIRY || byte === PAUSE || byte === STOP || byte === ESCAPE;

/** Bytes that are no text, as they go over the line. */
export function escaped(bytes: Uint8Array): Uint8Array {
  let more = 0;
  for (const byte of bytes) if (isCode(byte)) more++;
  if (more === 0) return bytes;
  const out = new Uint8Array(bytes.length + more);
  let at = 0;
  for (const byte of bytes) {
    if (isCode(byte)) {
      out[at++] = ESCAPE;
      out[at++] = byte ^ TURNED;
    } else out[at++] = byte;
  }
  return out;
}

/** Takes the codes out of what arrives, wherever it is cut. */
export class CodeFilter {
  private turned = false;

  /** @returns what is left; `code` is told of each code in its turn, and how many of those bytes came before it */
  take(bytes: Uint8Array, code: (byte: number, before: number) => void): Uint8Array {
    const out = new Uint8Array(bytes.length);
    let at = 0;
    for (const byte of bytes) {
      if (this.turned) {
        out[at++] = byte ^ TURNED;
        this.turned = false;
      } else if (byte === ESCAPE) this.turned = true;
      else if (isCode(byte)) code(byte, at);
      else out[at++] = byte;
    }
    return out.subarray(0, at);
  }
}
