/** A map from one plane onto another as a camera sees it: nine numbers, row by row. */
export type Homography = readonly number[];

type Point = readonly [number, number];

export function seenAt(h: Homography, x: number, y: number): [number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/**
 * The map that brings four places onto four others.
 * @returns null when three of them lie in one line
 * @see Hartley & Zisserman, "Multiple view geometry in computer vision", 2004, 4.1
 */
export function homographyOf(from: readonly Point[], to: readonly Point[]): Homography | null {
  const rows: number[][] = [];
  for (let k = 0; k < 4; k++) {
    const [[x, y], [u, v]] = [from[k], to[k]];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  for (let c = 0; c < 8; c++) {
    let pivot = c;
    for (let r = c + 1; r < 8; r++) if (Math.abs(rows[r][c]) > Math.abs(rows[pivot][c])) pivot = r;
    if (Math.abs(rows[pivot][c]) < 1e-12) return null;
    [rows[c], rows[pivot]] = [rows[pivot], rows[c]];
    for (let r = 0; r < 8; r++) {
      if (r === c) continue;
      const by = rows[r][c] / rows[c][c];
      if (by !== 0) for (let k = c; k < 9; k++) rows[r][k] -= by * rows[c][k];
    }
  }
  return [...rows.map((row, k) => row[8] / row[k]), 1];
}
