import { strToU8 } from "fflate";
import { type PathSet } from "../path/pathSet";

/** A length in mm with as many decimals as a machine can use: a tenth of a micrometre. */
const mm = (v: number): string => String(Math.round(v * 1e4) / 1e4);

/** The `d` of a path element for every path of a set. @see W3C, SVG 1.1, chapter 8 */
export function pathData({ points, starts, closed }: PathSet): string {
  const parts: string[] = [];
  for (let k = 0; k < closed.length; k++) {
    const at = (p: number): string => `${mm(points[2 * p])} ${mm(points[2 * p + 1])}`;
    parts.push(`M${at(starts[k])}`);
    for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
      const c = points.subarray(2 * p, 2 * p + 8);
      const straight = c[0] === c[2] && c[1] === c[3] && c[4] === c[6] && c[5] === c[7];
      parts.push(straight ? `L${at(p + 3)}` : `C${at(p + 1)} ${at(p + 2)} ${at(p + 3)}`);
    }
    if (closed[k]) parts.push("Z");
  }
  return parts.join("");
}

/**
 * An SVG in millimetres: filled sets by even-odd, the others as hairlines, one group a set. It is of exactly the size given,
 * which is the finish size unless paths reach beyond the piece.
 *
 * @param xMm, yMm  where its top left lies on the piece
 */
export function writePathsSvg(
  sets: readonly PathSet[],
  widthMm: number,
  heightMm: number,
  xMm = 0,
  yMm = 0,
): Uint8Array {
  const groups = sets.map((set) => {
    const colour = `#${set.colour.toString(16).padStart(6, "0")}`;
    const look =
      set.use === "fill"
        ? `fill="${colour}" fill-rule="evenodd" stroke="none"`
        : `fill="none" stroke="${colour}" stroke-width="0.1"`;
    const pass = set.pass ? ` data-power="${mm(set.pass.power)}" data-speed="${mm(set.pass.speed)}"` : "";
    return `<g id="${escaped(set.name)}" data-use="${set.use}"${pass} ${look}><path d="${pathData(set)}"/></g>`;
  });
  const [w, h] = [mm(widthMm), mm(heightMm)];
  return strToU8(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${mm(xMm)} ${mm(yMm)} ${w} ${h}">\n${groups.join("\n")}\n</svg>\n`,
  );
}

const ENTITIES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => ENTITIES[c]);
