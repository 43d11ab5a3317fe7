import { type Work } from "../maths/work";
import { type PathSet } from "../path/pathSet";
import { Pieces } from "./pieces";

/** A length in mm with as many decimals as a machine can use: a tenth of a micrometre. */
const mm = (v: number): string => String(Math.round(v * 1e4) / 1e4);

/** The `d` of a path element for every path of a set. @see W3C, SVG 1.1, chapter 8 */
export const pathData = (set: PathSet): string => Array.from(set.closed, (_, k) => dataOf(set, k)).join("");

function dataOf({ points, starts, closed }: PathSet, k: number): string {
  const parts: string[] = [];
  const at = (p: number): string => `${mm(points[2 * p])} ${mm(points[2 * p + 1])}`;
  parts.push(`M${at(starts[k])}`);
  for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
    const c = points.subarray(2 * p, 2 * p + 8);
    const straight = c[0] === c[2] && c[1] === c[3] && c[4] === c[6] && c[5] === c[7];
    parts.push(straight ? `L${at(p + 3)}` : `C${at(p + 1)} ${at(p + 2)} ${at(p + 3)}`);
  }
  if (closed[k]) parts.push("Z");
  return parts.join("");
}

/** Points written between two slices. */
const AT_ONCE = 1 << 14;

/**
 * An SVG in millimetres: filled sets by even-odd, the others as hairlines, one group a set. It is of exactly the size given,
 * which is the finish size unless paths reach beyond the piece.
 *
 * @param xMm, yMm  where its top left lies on the piece
 */
export function* writePathsSvg(
  sets: readonly PathSet[],
  widthMm: number,
  heightMm: number,
  xMm = 0,
  yMm = 0,
): Work<Uint8Array> {
  const text = new Pieces();
  const [w, h] = [mm(widthMm), mm(heightMm)];
  text.add(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${mm(xMm)} ${mm(yMm)} ${w} ${h}">\n`,
  );
  for (const [n, set] of sets.entries()) {
    const colour = `#${set.colour.toString(16).padStart(6, "0")}`;
    const look =
      set.use === "fill"
        ? `fill="${colour}" fill-rule="evenodd" stroke="none"`
        : `fill="none" stroke="${colour}" stroke-width="0.1"`;
    const pass = set.pass ? ` data-power="${mm(set.pass.power)}" data-speed="${mm(set.pass.speed)}"` : "";
    text.add(`<g id="${escaped(set.name)}" data-use="${set.use}"${pass} ${look}><path d="`);
    for (let k = 0, told = 0; k < set.closed.length; k++) {
      text.add(dataOf(set, k));
      if (set.starts[k] < told) continue;
      told = set.starts[k] + AT_ONCE;
      yield (n + k / set.closed.length) / sets.length;
    }
    text.add('"/></g>\n');
  }
  if (sets.length === 0) text.add("\n");
  text.add("</svg>\n");
  return text.bytes();
}

const ENTITIES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => ENTITIES[c]);
