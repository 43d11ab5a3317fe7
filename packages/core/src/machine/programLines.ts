import { type Work } from "../maths/work";

/** Bytes looked through between two slices. */
const AT_ONCE = 1 << 20;

/** The lines of a program, found once and decoded as they are asked for. */
export class ProgramLines {
  private readonly decoder = new TextDecoder();

  private constructor(
    private readonly bytes: Uint8Array,
    /** Where each line begins, and where the one after the last would. */
    private readonly begins: readonly number[],
  ) {}

  static *of(bytes: Uint8Array): Work<ProgramLines> {
    const begins = [0];
    let looked = 0;
    for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) {
      begins.push(at + 1);
      if (at - looked > AT_ONCE) {
        looked = at;
        yield at / bytes.length;
      }
    }
    if (begins[begins.length - 1] < bytes.length) begins.push(bytes.length + 1);
    return new ProgramLines(bytes, begins);
  }

  get count(): number {
    return this.begins.length - 1;
  }

  /** @param k  counted from 0; nothing beyond the last */
  text(k: number): string {
    if (k < 0 || k >= this.count) return "";
    return this.decoder.decode(this.bytes.subarray(this.begins[k], this.begins[k + 1] - 1));
  }

  /** Where a line begins, in bytes. */
  offset(k: number): number {
    return Math.min(this.begins[Math.min(k, this.count)], this.bytes.length);
  }
}
