import { d50ToSrgb, times } from "./matrix";
import { type ColourSpace, type Curve } from "./space";

/**
 * What an ICC profile of curves, with or without a matrix, says of stored numbers. Null for one that says it by
 * tables, or not as it should.
 *
 * @see ICC.1:2022, 8.3.3 (three components, matrix), 8.4 (monochrome), 10.6 curveType, 10.18 parametricCurveType
 */
export function spaceOfProfile(icc: Uint8Array): ColourSpace | null {
  try {
    return new Profile(icc).space();
  } catch (error) {
    if (error instanceof RangeError) return null; // it points beyond its end
    throw error;
  }
}

class Profile {
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  space(): ColourSpace | null {
    const [model, connection] = [this.text(16), this.text(20)];
    if (model === "GRAY") {
      const curve = this.curve("kTRC");
      if (!curve) return null;
      const light: Curve = connection === "Lab " ? (v) => lightOf(100 * curve(v)) : curve;
      return { light: [light, light, light], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] };
    }
    if (model !== "RGB " || connection !== "XYZ " || this.find("A2B0")) return null;
    const curves = ["rTRC", "gTRC", "bTRC"].map((tag) => this.curve(tag));
    const columns = ["rXYZ", "gXYZ", "bXYZ"].map((tag) => this.xyz(tag));
    if (curves.includes(null) || columns.includes(null)) return null;
    const [r, g, b] = columns as number[][];
    const matrix = times(d50ToSrgb(), [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]]);
    return { light: curves as unknown as ColourSpace["light"], matrix };
  }

  private text(at: number): string {
    return Buffer.from(this.bytes.subarray(at, at + 4)).toString("latin1");
  }

  /** Where a tag's data begins; 0 when the profile has no such tag. */
  private find(tag: string): number {
    const count = Math.min(this.view.getUint32(128), 100);
    for (let k = 0, at = 132; k < count; k++, at += 12)
      if (this.text(at) === tag) return this.view.getUint32(at + 4);
    return 0;
  }

  private xyz(tag: string): number[] | null {
    const at = this.find(tag);
    return at === 0 ? null : [8, 12, 16].map((k) => this.view.getInt32(at + k) / 65536);
  }

  private curve(tag: string): Curve | null {
    const at = this.find(tag);
    if (at === 0) return null;
    const type = this.text(at);
    return type === "curv" ? this.sampled(at) : type === "para" ? this.parametric(at) : null;
  }

  private sampled(at: number): Curve {
    const count = this.view.getUint32(at + 8);
    if (count === 0) return (v) => v;
    if (count === 1) {
      const gamma = this.view.getUint16(at + 12) / 256;
      return (v) => v ** gamma;
    }
    const table = Array.from({ length: count }, (_, k) => this.view.getUint16(at + 12 + k * 2) / 65535);
    return (v) => {
      const place = v * (count - 1);
      const low = Math.min(count - 2, Math.floor(place));
      return table[low] + (table[low + 1] - table[low]) * (place - low);
    };
  }

  private parametric(at: number): Curve | null {
    const kind = this.view.getUint16(at + 8);
    const count = [1, 3, 4, 5, 7][kind];
    if (!count) return null;
    const [g, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from(
      { length: count },
      (_, k) => this.view.getInt32(at + 12 + k * 4) / 65536,
    );
    const power: Curve = (v) => Math.max(0, a * v + b) ** g;
    if (kind < 2) return (v) => (v >= -b / a ? power(v) : 0);
    if (kind === 2) return (v) => (v >= -b / a ? power(v) + c : c);
    return (v) => (v >= d ? power(v) + e : c * v + f);
  }
}

/** CIE lightness 0..100 to light 0..1. */
const lightOf = (l: number): number => (l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389);
