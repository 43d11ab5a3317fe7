import { runToEnd } from "@hardline/core/maths/work";
import { fitClosed } from "@hardline/core/fit/fit";
import { knotPathsOf } from "@hardline/core/path/pathSet";
import { polygonOf, type Knot } from "@hardline/core/path/outline";
import { scaledKnot } from "@hardline/core/path/scaled";
import { outlineAt, outlinesOf } from "@hardline/core/trace/outlines";
import { traceBlack } from "@hardline/core/stage/trace/black";
import { traceSettings } from "@hardline/core/stage/trace/settings";
import { drawn, glyphOf, type Glyph, type Point } from "./glyphs";

/*
 * Letters of fonts that do not ship, 60 to 240 pixels high, drawn with soft edges: how near the traced outline comes to the
 * font's own. Of one font in three nothing was known while rules were set.
 */

const SEEN = ["NimbusRoman-Regular.otf", "DejaVuSans.ttf", "Z003-MediumItalic.otf", "URWGothic-Demi.otf"];
const UNSEEN = ["C059-Italic.otf", "URWBookman-Light.otf"];
const LETTERS = ["R", "a", "g", "S", "k", "8", "&", "W", "e", "Q"];
const HEIGHTS = [60, 120, 240];

export interface Letter extends Glyph {
  readonly unseen: boolean;
}

export function* lettersOfFonts(): Generator<Letter> {
  let k = 0;
  for (const [fonts, unseen] of [
    [SEEN, false],
    [UNSEEN, true],
  ] as const)
    for (const font of fonts)
      for (const letter of LETTERS) {
        const size = HEIGHTS[k++ % HEIGHTS.length];
        yield { ...glyphOf(font, letter, size, [(k * 0.37) % 1, (k * 0.61) % 1]), unseen };
      }
}

export interface Measured {
  /** 99 of 100 places lie within so many pixels, the larger way round; and all of them. */
  readonly p99: number;
  readonly most: number;
  readonly pieces: number;
  /** Corners of the font within half a pixel of a corner of the outline. */
  readonly kept: number;
}

/** Dots per mm of the traced picture. */
const PER_MM = 10;
/** Degrees from which on an outline has a corner. */
const CORNER = 15;
const NEAR = 0.5;

/** The outlines of a letter, in pixels: as Trace makes them, or through the points alone where its grey is half. */
export function traced(letter: Glyph, tolerance: number, how: "drawn" | "points"): Knot[][] {
  const { width, height } = letter;
  const gray = { width, height, data: drawn(letter) };
  if (how === "points") {
    const found = runToEnd(outlinesOf(gray, 128));
    return Array.from({ length: found.starts.length - 1 }, (_, k) =>
      runToEnd(fitClosed(outlineAt(found, k), { tolerance, corners: 0.5 })),
    );
  }
  const settings = traceSettings.parse({ toleranceMm: tolerance / PER_MM });
  const { sets } = runToEnd(traceBlack(gray, settings, { perMm: PER_MM, tolerance, edge: 3, enlarged: 1 }));
  return knotPathsOf(sets[0]).map(({ knots }) => knots.map((knot) => scaledKnot(knot, PER_MM)));
}

export function measured(letter: Glyph, tolerance: number, how: "drawn" | "points"): Measured {
  const outlines = traced(letter, tolerance, how);
  const rings = outlines.map((knots) => polygonOf(knots));
  const off = [away(rings, letter.rings), away(letter.rings, rings)];
  const corners = outlines.flatMap(cornersOf);
  const kept = letter.corners.filter(([x, y]) => corners.some((c) => Math.hypot(c[0] - x, c[1] - y) <= NEAR));
  return {
    p99: Math.max(...off.map((o) => o[Math.floor(0.99 * (o.length - 1))])),
    most: Math.max(...off.map((o) => o[o.length - 1])),
    pieces: outlines.reduce((sum, knots) => sum + knots.length, 0),
    kept: kept.length,
  };
}

function cornersOf(knots: readonly Knot[]): Point[] {
  return knots
    .filter((knot, k) => {
      const [before, next] = [knots[(k + knots.length - 1) % knots.length], knots[(k + 1) % knots.length]];
      const back = knot.in && Math.hypot(...knot.in) > 1e-6 ? knot.in : minus(before.at, knot.at);
      const out = knot.out && Math.hypot(...knot.out) > 1e-6 ? knot.out : minus(next.at, knot.at);
      const turn = Math.atan2(-back[0] * out[1] + back[1] * out[0], -back[0] * out[0] - back[1] * out[1]);
      return Math.abs(turn) * (180 / Math.PI) >= CORNER;
    })
    .map(({ at }) => at);
}
const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];

/** Distances of places on some rings, a tenth of a pixel apart, from others, the least first. */
function away(from: readonly (readonly Point[])[], to: readonly (readonly Point[])[]): number[] {
  const runs = to.flatMap(runsOf);
  const out: number[] = [];
  for (const ring of from)
    ring.forEach((p, k) => {
      const q = ring[(k + 1) % ring.length];
      const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / 0.1));
      for (let i = 0; i < n; i++)
        out.push(distance([p[0] + ((q[0] - p[0]) * i) / n, p[1] + ((q[1] - p[1]) * i) / n], runs));
    });
  return out.sort((a, b) => a - b);
}

/** Some pieces of a ring behind each other, and the circle that they lie in. */
interface Run {
  readonly points: readonly Point[];
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}
const RUN = 16;

function runsOf(ring: readonly Point[]): Run[] {
  return Array.from({ length: Math.ceil(ring.length / RUN) }, (_, k) => {
    const points = [...ring.slice(k * RUN, (k + 1) * RUN), ring[((k + 1) * RUN) % ring.length]];
    if ((k + 1) * RUN >= ring.length) points[points.length - 1] = ring[0];
    const [x, y] = [0, 1].map((c) => points.reduce((sum, p) => sum + p[c], 0) / points.length);
    return { points, x, y, radius: Math.max(...points.map((p) => Math.hypot(p[0] - x, p[1] - y))) };
  });
}

function distance([px, py]: Point, runs: readonly Run[]): number {
  let best = Infinity;
  for (const { points, x, y, radius } of runs) {
    const far = Math.hypot(px - x, py - y) - radius;
    if (far > 0 && far * far >= best) continue;
    for (let k = 0; k + 1 < points.length; k++) {
      const [[ax, ay], [bx, by]] = [points[k], points[k + 1]];
      const [dx, dy] = [bx - ax, by - ay];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / square)) : 0;
      best = Math.min(best, (px - ax - t * dx) ** 2 + (py - ay - t * dy) ** 2);
    }
  }
  return Math.sqrt(best);
}
