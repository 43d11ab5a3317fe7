import { Noise } from "@hardline/demo";
import { type Rgba } from "@hardline/core/raster/types";

/*
 * Line drawings whose coloured original is known: a picture is parted into areas by a rule, lines run where areas meet, and
 * both the coloured original and the lines alone are drawn from many points to a pixel.
 */

/** A drawing and what it should come to. */
export interface ColouredDrawing {
  readonly name: string;
  readonly unseen: boolean;
  /** Lines alone, in black on nothing, or on paper. */
  readonly lines: Rgba;
  readonly onPaper: boolean;
  /** Colours with the lines over them. */
  readonly original: Rgba;
  /** The area that a pixel has some of; -1 where it is all line. */
  readonly area: Int32Array;
  /** #rrggbb of each area. */
  readonly colours: readonly string[];
  /** Where gaps were left in the lines. */
  readonly gaps: readonly { readonly x: number; readonly y: number }[];
  /** Width of the gaps and of the lines, in pixels. */
  readonly gap: number;
  readonly wide: number;
}

/** Gaps that are closed, in pixels, where those of the drawing are so wide. */
export const closedGap = (gap: number): number => Math.max(3, gap + 1);

/** Points along a pixel's side. */
const FINE = 4;
const [W, H] = [480, 360];
const KINDS = ["cells", "discs", "bands"] as const;

/** Which area a point is of; points in pixels. */
type Parting = (x: number, y: number) => number;

function parting(kind: (typeof KINDS)[number], noise: Noise): Parting {
  const wave = () => [30 + 60 * noise.random(), 6.28 * noise.random(), 3 + 5 * noise.random()] as const;
  const waves = [wave(), wave(), wave(), wave()];
  const warp = (x: number, y: number): readonly [number, number] => [
    x + waves[0][2] * Math.sin(y / waves[0][0] + waves[0][1]) + waves[1][2] * Math.sin(x / waves[1][0]),
    y + waves[2][2] * Math.sin(x / waves[2][0] + waves[2][1]) + waves[3][2] * Math.sin(y / waves[3][0]),
  ];
  if (kind === "cells") {
    const seeds = Array.from({ length: 18 + Math.floor(14 * noise.random()) }, () => [
      W * noise.random(),
      H * noise.random(),
    ]);
    return (x, y) => {
      const [u, v] = warp(x, y);
      let [best, least] = [0, Infinity];
      seeds.forEach(([sx, sy], k) => {
        const off = (u - sx) * (u - sx) + (v - sy) * (v - sy);
        if (off < least) [best, least] = [k, off];
      });
      return best;
    };
  }
  if (kind === "discs") {
    const discs = Array.from({ length: 14 }, () => [
      W * noise.random(),
      H * noise.random(),
      30 + 60 * noise.random(),
    ]);
    return (x, y) => {
      const [u, v] = warp(x, y);
      let top = 0;
      discs.forEach(([cx, cy, r], k) => {
        if ((u - cx) * (u - cx) + (v - cy) * (v - cy) < r * r) top = k + 1;
      });
      return top;
    };
  }
  const [across, down] = [70 + 40 * noise.random(), 60 + 40 * noise.random()];
  return (x, y) => {
    const [u, v] = warp(x + 0.3 * y, y - 0.2 * x);
    return 40 * Math.floor((u + 200) / across) + Math.floor((v + 400) / down);
  };
}

export function colouredDrawing(k: number): ColouredDrawing {
  const noise = new Noise(77003 + 131 * k);
  const kind = KINDS[k % KINDS.length];
  const own = parting(kind, noise);
  const wide = 2.5 + 5 * noise.random();
  const gap = k % 2 === 0 ? 0 : 3 + Math.floor(6 * noise.random());
  const [fw, fh] = [W * FINE, H * FINE];
  const rule = new Int32Array(fw * fh);
  for (let y = 0, i = 0; y < fh; y++)
    for (let x = 0; x < fw; x++, i++) rule[i] = own((x + 0.5) / FINE, (y + 0.5) / FINE);
  const edge = edges(rule, fw, fh);
  const line = stroked(edge, fw, fh, (wide / 2) * FINE);
  // An area is what hangs together between lines; an opening no wider than the gaps that are closed is none.
  const closed = closedGap(gap);
  const { of: whole, count } = parts(stroked(edge, fw, fh, ((wide + closed) / 2) * FINE), fw, fh);
  const area = grownInto(whole, line, fw, fh);
  const colours = Array.from({ length: count }, () => {
    const code = () => Math.floor(40 + 215 * noise.random());
    return `#${[code(), code(), code()].map((c) => c.toString(16).padStart(2, "0")).join("")}`;
  });
  const gaps: { x: number; y: number }[] = [];
  if (gap > 0)
    for (let tries = 0; gaps.length < 24 && tries < 4000; tries++) {
      const at = edge[Math.floor(edge.length * noise.random())];
      const [x, y] = [(at % fw) / FINE, Math.floor(at / fw) / FINE];
      const far = gaps.every((g) => Math.hypot(g.x - x, g.y - y) > 60);
      const inside = x > 30 && y > 30 && x < W - 30 && y < H - 30;
      if (far && inside && isAlone(rule, fw, fh, x, y, wide + gap)) gaps.push({ x, y });
    }
  // A disc taken out of a line leaves, at the line's edges, an opening of so many pixels.
  const taken = Math.sqrt((gap / 2) ** 2 + (wide / 2) ** 2);
  for (const { x, y } of gaps) erase(line, fw, fh, x * FINE, y * FINE, taken * FINE);
  const onPaper = k % 3 === 1;
  const [lines, original] = [pixels(), pixels()];
  const middle = new Int32Array(W * H).fill(-1);
  const codes = colours.map((c) => [1, 3, 5].map((at) => parseInt(c.slice(at, at + 2), 16)));
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      let ink = 0;
      const sum = [0, 0, 0];
      for (let v = 0; v < FINE; v++)
        for (let u = 0; u < FINE; u++) {
          const at = (y * FINE + v) * fw + x * FINE + u;
          if (line[at] || area[at] < 0) ink += line[at];
          else {
            middle[i] = area[at];
            for (let c = 0; c < 3; c++) sum[c] += codes[area[at]][c];
          }
        }
      const all = FINE * FINE;
      const alpha = Math.round((255 * ink) / all);
      lines.data.set(onPaper ? [255 - alpha, 255 - alpha, 255 - alpha, 255] : [0, 0, 0, alpha], 4 * i);
      original.data.set([...sum.map((s) => Math.round(s / all)), 255], 4 * i);
    }
  return {
    ...{ name: `${kind} ${k + 1}`, unseen: k >= 20, lines, onPaper, original },
    ...{ area: middle, colours, gaps, gap, wide },
  };
}

const pixels = (): Rgba => ({ width: W, height: H, data: new Uint8Array(4 * W * H) });

/** What hangs together of all that is no line; lines have -1. */
function parts(line: Uint8Array, w: number, h: number): { of: Int32Array; count: number } {
  const of = new Int32Array(line.length).fill(-1);
  let count = 0;
  const stack: number[] = [];
  for (let i = 0; i < line.length; i++) {
    if (of[i] >= 0 || line[i]) continue;
    of[i] = count;
    stack.push(i);
    while (stack.length > 0) {
      const at = stack.pop()!;
      const x = at % w;
      for (const j of [x > 0 ? at - 1 : -1, x + 1 < w ? at + 1 : -1, at - w, at + w < w * h ? at + w : -1])
        if (j >= 0 && of[j] < 0 && !line[j]) {
          of[j] = count;
          stack.push(j);
        }
    }
    count++;
  }
  return { of, count };
}

/** Areas grown into what is no line and has none yet, point by point. */
function grownInto(of: Int32Array, line: Uint8Array, w: number, h: number): Int32Array {
  const grown = Int32Array.from(of);
  let front = Array.from(grown.keys()).filter((i) => grown[i] >= 0);
  while (front.length > 0) {
    const next: number[] = [];
    for (const at of front) {
      const x = at % w;
      for (const j of [x > 0 ? at - 1 : -1, x + 1 < w ? at + 1 : -1, at - w, at + w < w * h ? at + w : -1])
        if (j >= 0 && grown[j] < 0 && !line[j]) {
          grown[j] = grown[at];
          next.push(j);
        }
    }
    front = next;
  }
  return grown;
}

function edges(area: Int32Array, w: number, h: number): Int32Array {
  const found: number[] = [];
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++)
      if ((x + 1 < w && area[i] !== area[i + 1]) || (y + 1 < h && area[i] !== area[i + w])) found.push(i);
  return Int32Array.from(found);
}

/** All within a radius of the places of an edge. */
function stroked(edge: Int32Array, w: number, h: number, radius: number): Uint8Array {
  const line = new Uint8Array(w * h);
  const r = Math.ceil(radius);
  const spans = Array.from({ length: 2 * r + 1 }, (_, k) =>
    Math.floor(Math.sqrt(Math.max(0, radius * radius - (k - r) * (k - r)))),
  );
  for (const i of edge) {
    const [x, y] = [i % w, Math.floor(i / w)];
    for (let dy = -r; dy <= r; dy++) {
      if (y + dy < 0 || y + dy >= h) continue;
      const span = spans[dy + r];
      const row = (y + dy) * w;
      line.fill(1, row + Math.max(0, x - span), row + Math.min(w - 1, x + span) + 1);
    }
  }
  return line;
}

/** Whether only two areas meet about a place: a gap at a crossing would open several lines at once. */
function isAlone(area: Int32Array, w: number, h: number, x: number, y: number, reach: number): boolean {
  const seen = new Set<number>();
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const [px, py] = [Math.round((x + dx) * FINE), Math.round((y + dy) * FINE)];
      if (px >= 0 && py >= 0 && px < w && py < h) seen.add(area[py * w + px]);
    }
  return seen.size === 2;
}

/** A gap: no line within a radius of a place. */
function erase(line: Uint8Array, w: number, h: number, x: number, y: number, radius: number): void {
  const r = Math.ceil(radius);
  for (let dy = -r; dy <= r; dy++)
    for (let dx = -r; dx <= r; dx++) {
      const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
      if (dx * dx + dy * dy <= radius * radius && px >= 0 && py >= 0 && px < w && py < h)
        line[py * w + px] = 0;
    }
}
