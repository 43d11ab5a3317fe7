import { labOfLight } from "../colour/oklab";
import { codeOfLight, LINEAR_OF_CODE } from "../colour/srgb";
import { awayFrom } from "./away";
import { becomes, type Becomes } from "./becomes";
import { type ColourChange } from "./change";
import { type Light } from "./gamut";
import { rangeOf, type Range } from "./range";

/** Several changes as one: what becomes of light, and how much of a colour they took. */
export class Changing {
  private readonly ways: readonly { readonly range: Range; readonly becomes: Becomes }[];
  /** Each tells of colours that are surely no part of a range; one may know nothing. */
  private readonly away: readonly ReturnType<typeof awayFrom>[];

  constructor(changes: readonly ColourChange[]) {
    this.ways = changes.map((change) => ({ range: rangeOf(change), becomes: becomes(change) }));
    this.away = changes.map(awayFrom);
  }

  /** Share that the last one asked about was taken, 0..1. */
  taken = 0;

  /** What linear light becomes. */
  light(r: number, g: number, b: number): Light {
    const lab = labOfLight(r, g, b);
    let left = 1;
    let [nr, ng, nb] = [0, 0, 0];
    for (const way of this.ways) {
      const share = left * way.range(lab);
      if (share <= 0) continue;
      const light = way.becomes([r, g, b], lab);
      nr += share * light[0];
      ng += share * light[1];
      nb += share * light[2];
      left -= share;
      if (left <= 1e-9) break;
    }
    this.taken = 1 - left;
    return left >= 1 ? [r, g, b] : [nr + left * r, ng + left * g, nb + left * b];
  }

  private isAway(r: number, g: number, b: number): boolean {
    for (let k = 0; k < this.away.length; k++) {
      const away = this.away[k];
      if (!away || !away(r, g, b)) return false;
    }
    return true;
  }

  /** What one colour, 0xrrggbb, becomes; what nothing takes stays to the bit. */
  code(code: number): number {
    const own = LINEAR_OF_CODE[code >> 16];
    const green = LINEAR_OF_CODE[(code >> 8) & 255];
    const blue = LINEAR_OF_CODE[code & 255];
    if (this.isAway(own, green, blue)) {
      this.taken = 0;
      return code;
    }
    const [r, g, b] = this.light(own, green, blue);
    return this.taken <= 0 ? code : (codeOfLight(r) << 16) | (codeOfLight(g) << 8) | codeOfLight(b);
  }
}
