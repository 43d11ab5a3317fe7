import { cosPi, degreesOf, sinPi } from "../maths/steady";

/** A place of a picture, or of a print area. */
export type Point = readonly [number, number];

/**
 * How a print area lies in a picture. Of the area: mm, x to the right and y down from its origin, as if it were laid flat.
 * Of the picture: its own units (mm of a drawn thing, pixels of a photograph).
 */
export interface Surface {
  /** Where a place of the area is seen; null where it is turned away. */
  readonly seen: (x: number, y: number) => Point | null;
  /** The place of the area that is seen at a place of the picture, put into `into`; false where there is none. */
  readonly at: (x: number, y: number, into: Float64Array) => boolean;
  /**
   * The same of the pixels of some rows, where that is quicker than one by one: x and y of each, not a number where there
   * is no place.
   */
  readonly rows?: (pixels: Pixels, from: number, to: number, into: Float32Array) => void;
}

/** Pixels of a picture: the first one's middle and the way to the next, across and down, in its units. */
export interface Pixels {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly width: number;
}

/** An area that lies flat and is looked at straight. @param degrees  it is turned by, clockwise */
export function flatSurface([ox, oy]: Point, degrees = 0): Surface {
  const [c, s] = [cosPi(degrees / 180), sinPi(degrees / 180)];
  return {
    seen: (x, y) => [ox + c * x - s * y, oy + s * x + c * y],
    at: (x, y, into) => {
      const [dx, dy] = [x - ox, y - oy];
      into[0] = c * dx + s * dy;
      into[1] = c * dy - s * dx;
      return true;
    },
  };
}

/** What stands upright and is round, looked at from far away. */
export interface Round {
  /** Its middle line, and where the area's own y begins. */
  readonly origin: Point;
  readonly radiusMm: number;
  /** The place along the area, in mm, that looks straight at us. */
  readonly facing: number;
  /** How far the near side of a level circle hangs below its ends: it is looked at from a little above. */
  readonly sagMm?: number;
}

/**
 * An area that is wrapped round a cylinder: mm along the area are mm along its wall, so what is seen x from the middle is
 * asin(x / r) round it.
 */
export function roundSurface({ origin: [ox, oy], radiusMm: r, facing, sagMm = 0 }: Round): Surface {
  const at: Surface["at"] = (x, y, into) => {
    const across = (x - ox) / r;
    if (across <= -1 || across >= 1) return false;
    const deep = Math.sqrt(1 - across * across);
    const degrees = degreesOf(across, deep);
    into[0] = facing + ((degrees > 180 ? degrees - 360 : degrees) / 180) * Math.PI * r;
    into[1] = y - oy - sagMm * deep;
    return true;
  };
  return {
    at,
    /** What lies upright over each other is as far round. */
    rows: ({ x, y, dx, dy, width }, from, to, into) => {
      const columns = new Float32Array(2 * width);
      const place = new Float64Array(2);
      for (let u = 0; u < width; u++) {
        const on = at(x + u * dx, 0, place);
        columns[2 * u] = on ? place[0] : NaN;
        columns[2 * u + 1] = on ? place[1] : NaN;
      }
      for (let v = from, o = 2 * from * width; v < to; v++) {
        const down = y + v * dy;
        for (let u = 0; u < 2 * width; u += 2, o += 2) {
          into[o] = columns[u];
          into[o + 1] = columns[u + 1] + down;
        }
      }
    },
    seen: (x, y) => {
      const turn = (x - facing) / r / Math.PI; // half turns
      if (turn < -0.5 || turn > 0.5) return null;
      return [ox + r * sinPi(turn), oy + y + sagMm * cosPi(turn)];
    },
  };
}
