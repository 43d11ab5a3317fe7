import fontkit from "@pdf-lib/fontkit";
import { existsSync, readFileSync } from "node:fs";

export type Point = readonly [number, number];

/** One letter of a font that does not ship with the program, as the font has it. */
export interface Glyph {
  readonly name: string;
  /** In pixels, y down: its outlines as straight pieces short enough to be the curve. */
  readonly rings: readonly (readonly Point[])[];
  /** Where an outline turns by a `CORNER` or more at once. */
  readonly corners: readonly Point[];
  /** Straight lines and curves that the font has for it. */
  readonly pieces: number;
  readonly width: number;
  readonly height: number;
}

/** Degrees from which on two pieces of a font's outline meet in a corner. */
const CORNER = 25;
const PARTS = 48;
/** Pixels of paper round a letter. */
const ROUND = 8;

interface Command {
  readonly command: string;
  readonly args: readonly number[];
}
interface Font {
  layout(text: string): {
    readonly glyphs: readonly { readonly path: { readonly commands: readonly Command[] } }[];
  };
}

/** Debian's packages of fonts, which come with Ghostscript and Chromium. */
const FOLDERS = ["/usr/share/fonts/opentype/urw-base35/", "/usr/share/fonts/truetype/dejavu/"];
const known = new Map<string, Font>();

function fontOf(file: string): Font {
  const at = FOLDERS.map((folder) => folder + file).find((path) => existsSync(path));
  if (!at) throw new Error(`The font ${file} is not on this machine: it comes with ghostscript or chromium.`);
  const font = known.get(at) ?? (fontkit.create(readFileSync(at)) as unknown as Font);
  known.set(at, font);
  return font;
}

/** A letter whose height, or width where that is more, is so many pixels; a fraction of one off the pixels' grid. */
export function glyphOf(file: string, letter: string, size: number, shift: Point): Glyph {
  const { commands } = fontOf(file).layout(letter).glyphs[0].path;
  const all = commands.flatMap(({ args }) => pairs(args));
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = size / Math.max(high - low, right - left);
  const place = ([x, y]: Point): Point => [
    ROUND + shift[0] + (x - left) * scale,
    ROUND + shift[1] + (high - y) * scale,
  ];
  const rings: Point[][] = [];
  const corners: Point[] = [];
  let pieces = 0;
  let segments: Point[][] = [];
  const close = (): void => {
    const own = segments.filter(([a, ...rest]) => rest.some((b) => apart(a, b) > 1e-6));
    segments = [];
    if (own.length === 0) return;
    const [first, last] = [own[0][0], own[own.length - 1]];
    if (apart(last[last.length - 1], first) > 1e-6) own.push([last[last.length - 1], first]);
    pieces += own.length;
    own.forEach((next, k) => {
      const before = own[(k + own.length - 1) % own.length];
      const turn = turnOf(before[before.length - 1], before, next);
      if (turn >= CORNER) corners.push(next[0]);
    });
    rings.push(own.flatMap((piece) => flattened(piece).slice(0, -1)));
  };
  let at: Point = [0, 0];
  for (const { command, args } of commands) {
    if (command === "moveTo" || command === "closePath") close();
    if (command === "closePath") continue;
    const points = pairs(args).map(place);
    if (command !== "moveTo") segments.push([at, ...points]);
    at = points[points.length - 1];
  }
  close();
  const side = (length: number) => Math.ceil(length * scale) + 2 * ROUND + 1;
  const name = `${file.replace(/\.\w+$/, "")} ${letter} ${size}`;
  return { name, rings, corners, pieces, width: side(right - left), height: side(high - low) };
}

const pairs = (args: readonly number[]): Point[] =>
  Array.from({ length: args.length / 2 }, (_, k): Point => [args[2 * k], args[2 * k + 1]]);
const apart = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Degrees by which the way turns from one piece to the next. */
function turnOf(at: Point, before: readonly Point[], next: readonly Point[]): number {
  const from = [...before].reverse().find((p) => apart(p, at) > 1e-6)!;
  const to = next.find((p) => apart(p, at) > 1e-6)!;
  const [ax, ay, bx, by] = [at[0] - from[0], at[1] - from[1], to[0] - at[0], to[1] - at[1]];
  return (Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by)) * 180) / Math.PI;
}

/** De Casteljau's construction for any degree. */
function flattened(piece: readonly Point[]): Point[] {
  const parts = piece.length === 2 ? 1 : PARTS;
  return Array.from({ length: parts + 1 }, (_, k): Point => {
    let points = piece;
    const t = k / parts;
    while (points.length > 1)
      points = points
        .slice(1)
        .map((p, i): Point => [
          points[i][0] + (p[0] - points[i][0]) * t,
          points[i][1] + (p[1] - points[i][1]) * t,
        ]);
    return points[0];
  });
}

/** Rows of a pixel at which it is looked how far a letter reaches. */
const ROWS = 64;

/** The letter in black on white, each pixel as dark as the share of it that is inside, the inside by odd and even crossings. */
export function drawn({ rings, width, height }: Glyph): Uint8Array {
  const inside = new Float64Array(width * height);
  for (let row = 0; row < height * ROWS; row++) {
    const y = (row + 0.5) / ROWS;
    const crossings: number[] = [];
    for (const ring of rings)
      for (let k = 0; k < ring.length; k++) {
        const [[ax, ay], [bx, by]] = [ring[k], ring[(k + 1) % ring.length]];
        if (ay <= y !== by <= y) crossings.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
      }
    crossings.sort((a, b) => a - b);
    const start = Math.floor(row / ROWS) * width;
    for (let k = 0; k + 1 < crossings.length; k += 2)
      for (let x = Math.floor(crossings[k]); x < crossings[k + 1]; x++)
        inside[start + x] += (Math.min(x + 1, crossings[k + 1]) - Math.max(x, crossings[k])) / ROWS;
  }
  return Uint8Array.from(inside, (share) => 255 - Math.round(255 * Math.min(1, share)));
}
