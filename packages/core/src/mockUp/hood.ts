import { type Cut, type GarmentWish } from "./garment";
import { bend, mirrored, movedPath, openPath } from "./shapes";
import { type Point } from "./surface";

type More = NonNullable<GarmentWish["more"]>;

/** A hood that lies back behind the neck, its two cords, and the pocket in front. */
export const hoodOfFront: More = (middle, top, { length, neck, neckDrop, ribMm = 0, chest }) => {
  const at = (path: Parameters<typeof movedPath>[0]) => movedPath(path, [middle, top]);
  const hood = mirrored([
    { at: [0, -34], out: [0.7 * neck, 0] },
    { at: [neck + 42, 40], in: [-6, -44], out: [4, 34] },
    { at: [0.34 * neck, neckDrop + 46], in: [0.5 * neck, -6] },
    { at: [0, neckDrop + 20], in: [0.16 * neck, 0] },
  ]);
  const hole = mirrored([
    { at: [0, -6], out: [0.5 * neck, 0] },
    { at: [0.86 * neck, 34], in: [0, -30], out: [0, 34] },
    { at: [0, neckDrop + 14], in: [0.42 * neck, -4] },
  ]);
  const [high, low] = [length - ribMm - 210, length - ribMm];
  const half = 0.33 * chest;
  const pocket = mirrored([
    { at: [0, high] },
    { at: [0.66 * half, high], out: [10, 60] },
    { at: [half, low - 60], in: [-40, -20] },
    { at: [half, low] },
    { at: [0, low] },
  ]);
  const cord = (s: number) =>
    at(
      bend(
        [s * 0.4 * neck, neckDrop + 30],
        [s * (0.46 * neck + 8), neckDrop + 70],
        [s * 0.5 * neck, neckDrop + 105],
      ),
    );
  const y = (v: number) => v - neckDrop;
  const edge: Point[] = [
    [-0.66 * half, y(high)],
    [0.66 * half, y(high)],
  ];
  return {
    parts: [
      { path: at(hood), shade: 0.97 },
      { path: at(hole), shade: 0.5 },
      { path: at(pocket), shade: 1 },
    ],
    lines: [
      { path: { ...at(pocket), closed: false }, widthMm: 1.8, shade: 0.72 },
      { path: at({ ...hood, closed: false }), widthMm: 1.8, shade: 0.76 },
      ...[-1, 1].map((s) => ({ path: cord(s), widthMm: 6, shade: 1.5 })),
    ],
    seams: [
      edge,
      [
        [-0.66 * half, y(high)],
        [-half, y(low - 60)],
      ],
      [
        [0.66 * half, y(high)],
        [half, y(low - 60)],
      ],
    ],
  };
};

/** A hood that hangs down the back: nothing can be printed under it. */
export const hoodOfBack: More = (middle, top, { neck, neckDrop }: Cut) => {
  const at = (path: Parameters<typeof movedPath>[0]) => movedPath(path, [middle, top]);
  const down = neckDrop + 190;
  const hood = mirrored([
    { at: [0, -30], out: [0.7 * neck, 0] },
    { at: [neck + 40, 30], in: [-6, -36], out: [10, 60] },
    { at: [0, down], in: [0.9 * neck, 4] },
  ]);
  const y = (v: number) => v - neckDrop;
  return {
    parts: [{ path: at(hood), shade: 0.98 }],
    lines: [
      { path: at({ ...hood, closed: false }), widthMm: 2, shade: 0.7 },
      { path: at(openPath([0, -28], [0, down])), widthMm: 1.4, shade: 0.82 },
    ],
    seams: [
      [
        [-neck - 30, y(60)],
        [-0.5 * neck, y(down - 25)],
        [0, y(down)],
        [0.5 * neck, y(down - 25)],
        [neck + 30, y(60)],
      ],
    ],
  };
};
