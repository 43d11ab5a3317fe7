import { percentile } from "../maths/percentile";
import { runToEnd } from "../maths/work";
import { EVEN, fallOf, levelAt, lightOn, lightRow, lumaAt, type Light, type PaperTile } from "../clear/paper";
import { type Rgba } from "../raster/types";

// Thresholds: what they decide is measured by `npm run kinds`.

/** Tiles along the longer side. */
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
  const surface = fallOf(tiles, NEAR);
  const on = tiles.filter((t) => Math.abs(t.bright / levelAt(surface, t.u, t.v) - 1) < NEAR).length;
  const sheet = tiles.length === 0 ? 0 : on / tiles.length;
  const near = tiles.filter((t) => {
    const level = levelAt(surface, t.u, t.v);
    return t.bright > level * (1 - NEAR) && t.bright < level * (1 + 2 * NEAR);
  });
  const levels = (near.length > 0 ? near : tiles).map((t) => levelAt(surface, t.u, t.v));
  const least = Math.min(...levels) / Math.max(...levels, 1e-6);
  const uneven = sheet > 0.6 && least < 0.9;
  return { sheet, light: uneven ? runToEnd(lightOn(picture, false)) : EVEN, least: sheet > 0.6 ? least : 1 };
}

/** Lightness within this of the paper's is paper; below the middle of the rest, ink. */
const OF_PAPER = 0.08;
/** At least this share of the picture is paper, and this share is paper or ink, on a sheet that was drawn on. */
const LEAST_PAPER = 0.2;
const TWO_TONES = 0.85;

/**
 * The dimmest light by the brightest on a picture that is dark shapes on paper and little else, however large the
 * shapes are; null for any other.
 */
export function lightOnTwoTones(picture: Rgba): number | null {
  const light = runToEnd(lightOn(picture, false));
  const { width, height, data } = picture;
  const counts = new Float64Array(256);
  const row = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    lightRow(light, width, height, y, row);
    for (let x = 0, o = y * width * 4; x < width; x++, o += 4)
      if (data[o + 3] >= 128) counts[Math.min(255, Math.round((lumaAt(data, o) / row[x]) * 200))]++;
  }
  let paper = 100;
  for (let bin = 100; bin < 256; bin++) if (counts[bin] >= counts[paper]) paper = bin;
  const ink = percentile(counts, 0.005);
  const share = (low: number, high: number): number => {
    let sum = 0;
    for (let bin = Math.max(0, Math.ceil(low)); bin <= Math.min(255, high); bin++) sum += counts[bin];
    return (
      sum /
      Math.max(
        1,
        counts.reduce((a, b) => a + b, 0),
      )
    );
  };
  const onPaper = share(paper * (1 - OF_PAPER), 255);
  const dark = share(0, ink + 0.3 * (paper - ink));
  return onPaper >= LEAST_PAPER && onPaper + dark >= TWO_TONES ? Math.min(...light.share) : null;
}

function tilesOf({ width, height, data }: Rgba): PaperTile[] {
  const side = Math.max(4, Math.ceil(Math.max(width, height) / TILES));
  const tiles: PaperTile[] = [];
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
