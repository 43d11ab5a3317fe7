// Takes the outlines of the shipped font's letters out of it, for text on films and proofs, when they are not there yet.
import fontkit from "@pdf-lib/fontkit";
import { existsSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const out = join(dirname(dirname(fileURLToPath(import.meta.url))), "packages/core/src/letters/outlines.ts");
const from = createRequire(import.meta.url).resolve(
  "@fontsource/archivo/files/archivo-latin-500-normal.woff",
);
const made = existsSync(out) ? statSync(out).mtimeMs : 0;
if (statSync(fileURLToPath(import.meta.url)).mtimeMs > made) {
  const font = fontkit.create(readFileSync(from));
  const wanted = [];
  for (let point = 32; point < 383; point++) if (point < 127 || point > 159) wanted.push(point);
  wanted.push(0x2013, 0x2014, 0x2019, 0x201c, 0x201d, 0x00d7, 0x0394, 0x2212);
  const short = { moveTo: "M", lineTo: "L", quadraticCurveTo: "Q", bezierCurveTo: "C", closePath: "Z" };
  const lines = wanted
    .filter((point, k) => font.hasGlyphForCodePoint(point) && wanted.indexOf(point) === k)
    .map((point) => {
      const glyph = font.glyphForCodePoint(point);
      const drawn = glyph.path.commands
        .map(({ command, args }) => short[command] + args.map((v) => Math.round(v)).join(" "))
        .join("");
      return `  ${point}: [${Math.round(glyph.advanceWidth)}, "${drawn}"],`;
    });
  writeFileSync(
    out,
    `/* Made by scripts/letters.mjs from the shipped font. */

/** How high a capital is, in the outlines' units. */
export const CAPITAL = ${Math.round(font.capHeight)};
/** By code point: how far the next letter begins, and the outline, y upwards: M, L, Q, C and Z with their numbers. */
export const OUTLINES: Readonly<Record<number, readonly [advance: number, drawn: string]>> = {
${lines.join("\n")}
};
`,
  );
  console.error("made the letters");
}
