import fontkit from "@pdf-lib/fontkit";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { SIDE, type KnownShape, type Point } from "./traceTable";

/** Height of a capital, in pixels of the small picture. */
const HEIGHT = 120;
/** Straight pieces that stand for each curve of a letter. */
const PARTS = 48;

interface Command {
  readonly command: string;
  readonly args: readonly number[];
}
interface Font {
  readonly unitsPerEm: number;
  layout(text: string): {
    readonly glyphs: readonly { readonly path: { readonly commands: readonly Command[] } }[];
  };
}

/** Letters without holes of the font that the program is set in, as it draws them. */
export function letters(of: string): KnownShape[] {
  const file = createRequire(__filename).resolve("@fontsource/archivo/files/archivo-latin-400-normal.woff");
  const font = fontkit.create(readFileSync(file)) as unknown as Font;
  return [...of].map((letter) => {
    const { commands } = font.layout(letter).glyphs[0].path;
    const outline = placed(lineOf(commands));
    const pieces = commands.filter((c) => /To$/.test(c.command) && c.command !== "moveTo").length;
    return { name: `letter ${letter}`, outline, pieces, unseen: true };
  });
}

function lineOf(commands: readonly Command[]): Point[] {
  const points: Point[] = [];
  let at: Point = [0, 0];
  for (const { command, args } of commands) {
    if (command === "closePath") continue;
    const end: Point = [args[args.length - 2], args[args.length - 1]];
    if (command === "quadraticCurveTo")
      for (let s = 1; s < PARTS; s++) {
        const [t, u] = [s / PARTS, 1 - s / PARTS];
        const of = (c: 0 | 1) => u * u * at[c] + 2 * u * t * args[c] + t * t * end[c];
        points.push([of(0), of(1)]);
      }
    points.push(end);
    at = end;
  }
  return points;
}

/** In the middle of the small picture, a fraction of a pixel off its grid, y down. */
function placed(points: readonly Point[]): Point[] {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = HEIGHT / Math.max(high - low, right - left);
  const [cx, cy] = [(left + right) / 2, (low + high) / 2];
  return points.map(([x, y]) => [SIDE / 2 + 0.37 + (x - cx) * scale, SIDE / 2 - 0.21 - (y - cy) * scale]);
}
