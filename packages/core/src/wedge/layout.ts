import { newGray, type Gray, type Rect } from "../raster/types";
import { MM_PER_INCH } from "../maths/units";

/** Shares of black that a wedge steps through, in percent. */
export const STEPS: readonly number[] = Array.from({ length: 21 }, (_, k) => 5 * k);
/** Sides of the lone dots and widths of the lines and gaps that it tries, in dots of the machine. */
export const SIZES: readonly number[] = [1, 2, 3, 4, 5, 6, 8, 10];

/** Size of the printed wedge. */
export const WIDTH_MM = 104;
export const HEIGHT_MM = 78;

/** A part of the wedge, in mm from its top left. */
export interface Patch extends Rect {
  readonly percent: number;
}
export interface Detail extends Rect {
  readonly kind: "dot" | "line" | "gap";
  /** Dots of the machine along its side, or across. */
  readonly dots: number;
}

/** Side of a patch and the room between two, where the patches begin, in mm. */
const [PATCH, APART] = [11, 2];
const LEFT = 7;
const TOP = 8;

/** The steps in three rows; their order is mixed, so that light that falls off is not taken for tone. */
export const PATCHES: readonly Patch[] = STEPS.map((percent, k) => {
  const at = (k * 8) % 21; // 8 and 21 have no factor in common: every place once
  const [column, row] = [at % 7, Math.floor(at / 7)];
  return {
    percent,
    x: LEFT + column * (PATCH + APART),
    y: TOP + row * (PATCH + APART),
    width: PATCH,
    height: PATCH,
  };
});

/** From one detail to the next, where their rows begin, and from row to row, in mm; what lies between is bare (`wedge.test.ts`). */
const [DETAIL_PITCH, DETAIL_TOP, DETAIL_ROW] = [11.3, 49, 8];

/** Lone dots, lines and gaps, a row each, from fine to coarse. */
export const DETAILS: readonly Detail[] = (["dot", "line", "gap"] as const).flatMap((kind, row) =>
  SIZES.map((dots, k) => ({
    ...{ kind, dots, x: LEFT + DETAIL_PITCH * k, y: DETAIL_TOP + DETAIL_ROW * row, width: 9, height: 6 },
  })),
);

/** Middles of the corner marks; the first is a square, so that a photograph tells which way up it is. */
export const CORNERS: readonly (readonly [number, number])[] = [
  [4, 4],
  [WIDTH_MM - 4, 4],
  [WIDTH_MM - 4, HEIGHT_MM - 4],
  [4, HEIGHT_MM - 4],
];
/** Side of a corner mark. */
export const CORNER_MM = 5;

type Place = readonly [number, number];
const farFromCorners = ([x, y]: Place): boolean =>
  CORNERS.every(([u, v]) => Math.abs(x - u) > CORNER_MM || Math.abs(y - v) > CORNER_MM);

/** Places that are bare on every wedge, between the steps. */
export const STEPS_BARE: readonly Place[] = [0, 1, 2, 3]
  .flatMap((row) =>
    [0, 1, 2, 3, 4, 5, 6, 7].map((column): Place => [
      LEFT - APART / 2 + column * (PATCH + APART),
      TOP - APART / 2 + row * (PATCH + APART),
    ]),
  )
  .filter(farFromCorners);

/** Places that are bare on every wedge, all over it: between the details too, whose light no surface far off tells. */
export const BARE: readonly Place[] = [
  ...STEPS_BARE,
  ...[1, 2, 3]
    .flatMap((row) =>
      [0, 1, 2, 3, 4, 5, 6, 7, 8].map((column): Place => [
        LEFT - 1.15 + column * DETAIL_PITCH,
        DETAIL_TOP - 1 + row * DETAIL_ROW,
      ]),
    )
    .filter(farFromCorners),
];

/** Pitch of lone dots and lines: five times their size at least, so that each stands alone. */
const pitchOf = (dots: number): number => 5 * dots;

/** The wedge as grey, a pixel a dot of the machine: steps of grey to be made into dots, the rest black or white. */
export function drawWedge(dotsPerInch: number): Gray {
  const perMm = dotsPerInch / MM_PER_INCH;
  const to = (mm: number) => Math.round(mm * perMm);
  const gray = newGray(to(WIDTH_MM), to(HEIGHT_MM));
  gray.data.fill(255);
  const fill = (l: number, t: number, r: number, b: number, code: number): void => {
    for (let y = t; y < b; y++) gray.data.fill(code, y * gray.width + l, y * gray.width + r);
  };
  for (const { percent, x, y, width, height } of PATCHES)
    fill(to(x), to(y), to(x + width), to(y + height), Math.round(255 * (1 - percent / 100)));
  CORNERS.forEach(([cx, cy], k) => {
    const half = CORNER_MM / 2;
    for (let y = to(cy - half); y < to(cy + half); y++)
      for (let x = to(cx - half); x < to(cx + half); x++) {
        const [dx, dy] = [(x + 0.5) / perMm - cx, (y + 0.5) / perMm - cy];
        if (k === 0 || dx * dx + dy * dy <= half * half) gray.data[y * gray.width + x] = 0;
      }
  });
  for (const { kind, dots, x, y, width, height } of DETAILS) {
    const [l, t, r, b] = [to(x), to(y), to(x + width), to(y + height)];
    if (kind === "gap") fill(l, t, r, b, 0);
    const pitch = pitchOf(dots);
    for (let v = t; v + (kind === "dot" ? pitch : 0) <= b; v += kind === "dot" ? pitch : b - t)
      for (let u = l; u + pitch <= r; u += pitch) {
        const [fromX, fromY] = [u + 2 * dots, kind === "dot" ? v + 2 * dots : t];
        fill(fromX, fromY, fromX + dots, kind === "dot" ? fromY + dots : b, kind === "gap" ? 255 : 0);
      }
  }
  return gray;
}

/** Share of a detail's box that is marked, counted on the wedge itself. */
export function markedShare(gray: Gray, { x, y, width, height }: Rect, dotsPerInch: number): number {
  const perMm = dotsPerInch / MM_PER_INCH;
  const [l, t, r, b] = [x, y, x + width, y + height].map((mm) => Math.round(mm * perMm));
  let dark = 0;
  for (let v = t; v < b; v++) for (let u = l; u < r; u++) dark += 1 - gray.data[v * gray.width + u] / 255;
  return dark / ((r - l) * (b - t));
}
