import { finish } from "../maths/work";
import { EVEN, lightOn, lumaAt, percentile, type Light } from "../clear/paper";
import { type Rgba } from "../raster/types";

const TILES = 24;
/** A tile is of the sheet when its brightness is this near to the fitted fall of light. */
const NEAR = 0.07;

/**
 * Looks for a sheet of paper under one fall of light: the brighter part of each tile, fitted by a surface of second
 * degree that tiles full of ink do not pull down (least squares, again and again without those far below).
 *
 * @returns share of tiles on the surface; the light to even out when most are; the dimmest light, 1 = even
 */
export function sheetOf(picture: Rgba): { sheet: number; light: Light; least: number } {
  const tiles = tilesOf(picture);
  let used = tiles;
  let surface: number[] = [];
  for (let round = 0; round < 6; round++) {
    surface = fitted(used);
    const kept = tiles.filter((t) => {
      const level = valueAt(surface, t.u, t.v);
      return t.bright > level * (1 - NEAR) && t.bright < level * (1 + 2 * NEAR);
    });
    if (kept.length < 12) break;
    used = kept;
  }
  const on = tiles.filter((t) => Math.abs(t.bright / valueAt(surface, t.u, t.v) - 1) < NEAR).length;
  const sheet = tiles.length === 0 ? 0 : on / tiles.length;
  const levels = used.map((t) => valueAt(surface, t.u, t.v));
  const least = Math.min(...levels) / Math.max(...levels, 1e-6);
  const uneven = sheet > 0.6 && least < 0.9;
  return { sheet, light: uneven ? finish(lightOn(picture)) : EVEN, least: sheet > 0.6 ? least : 1 };
}

interface Tile {
  readonly u: number;
  readonly v: number;
  readonly bright: number;
}

function tilesOf({ width, height, data }: Rgba): Tile[] {
  const side = Math.max(4, Math.ceil(Math.max(width, height) / TILES));
  const tiles: Tile[] = [];
  for (let top = 0; top < height; top += side)
    for (let left = 0; left < width; left += side) {
      const counts = new Float64Array(256);
      let solid = 0;
      for (let y = top; y < Math.min(height, top + side); y++)
        for (let x = left; x < Math.min(width, left + side); x++) {
          const o = (y * width + x) * 4;
          if (data[o + 3] < 128) continue;
          counts[Math.round(lumaAt(data, o) * 255)]++;
          solid++;
        }
      if (solid < 8) continue;
      tiles.push({
        u: (left + side / 2) / width - 0.5,
        v: (top + side / 2) / height - 0.5,
        bright: percentile(counts, 0.7) / 255,
      });
    }
  return tiles;
}

const terms = (u: number, v: number): number[] => [1, u, v, u * u, u * v, v * v];
const valueAt = (surface: readonly number[], u: number, v: number): number =>
  Math.max(
    0.01,
    terms(u, v).reduce((sum, t, k) => sum + t * (surface[k] ?? 0), 0),
  );

/** Least squares by the normal equations and Gauss's elimination. */
function fitted(tiles: readonly Tile[]): number[] {
  const n = 6;
  const rows = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { u, v, bright } of tiles) {
    const t = terms(u, v);
    for (let a = 0; a < n; a++) {
      for (let b = 0; b < n; b++) rows[a][b] += t[a] * t[b];
      rows[a][n] += t[a] * bright;
    }
  }
  for (let a = 0; a < n; a++) rows[a][a] += 1e-6;
  for (let a = 0; a < n; a++) {
    const lead = rows[a][a];
    for (let b = a; b <= n; b++) rows[a][b] /= lead;
    for (let c = 0; c < n; c++) {
      if (c === a) continue;
      const times = rows[c][a];
      for (let b = a; b <= n; b++) rows[c][b] -= times * rows[a][b];
    }
  }
  return rows.map((row) => row[n]);
}
