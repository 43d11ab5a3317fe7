import { type Pose, posedAt } from "@hardline/core/machine/camera";
import { type MarkEntry } from "@hardline/core/machine/markEntry";
import { seeded } from "@hardline/core/maths/seeded";

/** A printed sheet as it was laid in: where its marks should be, and how it lies. */
export interface PrintedSheet {
  readonly marks: readonly (readonly [number, number])[];
  readonly entry: MarkEntry;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly pose: Pose;
  /** Number of the mark that somebody smudged; -1 for none. */
  readonly smudged: number;
}

/** A sheet laid in by hand: askew, shifted, and the paper a little longer or shorter than it was. */
export function laidIn(sheet: Omit<PrintedSheet, "pose" | "smudged">, seed: number): PrintedSheet {
  const chance = seeded(seed * 48271 + 11);
  for (let k = 0; k < 7; k++) chance();
  const turn = ((chance() - 0.5) * 1.2 * Math.PI) / 180;
  const [sx, sy] = [1 + (chance() - 0.5) * 0.006, 1 + (chance() - 0.5) * 0.006];
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [mx, my] = [sheet.widthMm / 2, sheet.heightMm / 2];
  const [tx, ty] = [3 * (chance() - 0.5), 3 * (chance() - 0.5)];
  const [a, b, d, e] = [cos * sx, -sin * sy, sin * sx, cos * sy];
  const pose: Pose = [a, b, mx - a * mx - b * my + tx, d, e, my - d * mx - e * my + ty];
  return { ...sheet, pose, smudged: chance() < 0.5 ? Math.floor(chance() * sheet.marks.length) : -1 };
}

const MM = 0.1;
const SIDE = 220;

/** What the camera sees about a place of the bed, in mm: grey, a byte a pixel, with light that falls off, and noise. */
export function cameraSees(
  { marks, entry, pose, smudged }: PrintedSheet,
  x: number,
  y: number,
  seed: number,
): { width: number; height: number; mmPerPixel: number; data: Uint8Array } {
  const chance = seeded(seed * 7907 + 3);
  const { shape, sizeMm } = entry;
  const across = Math.sqrt(pose[0] * pose[0] + pose[3] * pose[3]);
  const [cos, sin] = [pose[0] / across, pose[3] / across];
  const at = marks.map(([u, v]) => posedAt(pose, u, v));
  const data = new Uint8Array(SIDE * SIDE);
  const [lx, ly] = [chance() - 0.5, chance() - 0.5];
  const outside = (px: number, py: number): number => {
    let least = Infinity;
    for (const [k, [mx, my]] of at.entries()) {
      const [dx, dy] = [px - mx, py - my];
      const [u, v] = [Math.abs(cos * dx + sin * dy), Math.abs(-sin * dx + cos * dy)];
      const square = Math.max(u, v) - sizeMm / 2;
      const own =
        shape === "disc"
          ? Math.hypot(dx, dy) - sizeMm / 2
          : shape === "square"
            ? square
            : Math.max(square, Math.min(u, v) - sizeMm / 10);
      least = Math.min(least, own);
      if (k === smudged)
        least = Math.min(least, Math.hypot(dx - sizeMm * 0.4, dy + sizeMm * 0.2) - sizeMm * 0.3);
    }
    return least;
  };
  for (let v = 0; v < SIDE; v++)
    for (let u = 0; u < SIDE; u++) {
      const off = outside(x + (u + 0.5 - SIDE / 2) * MM, y + (v + 0.5 - SIDE / 2) * MM);
      const dark = Math.max(0, Math.min(1, 0.5 - off / MM));
      const light = 215 * (1 + 0.2 * lx * (u / SIDE - 0.5) + 0.2 * ly * (v / SIDE - 0.5));
      const noise = 12 * (chance() + chance() + chance() - 1.5);
      data[v * SIDE + u] = Math.max(0, Math.min(255, Math.round(light * (1 - 0.82 * dark) + noise)));
    }
  return { width: SIDE, height: SIDE, mmPerPixel: MM, data };
}
