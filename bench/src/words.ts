import { knotPathsOf, pathSetOf, type KnotPath } from "@hardline/core/path/pathSet";
import { pathData } from "@hardline/core/format/svg";
import { shapeOf } from "@hardline/core/edit/find";
import { runToEnd } from "@hardline/core/maths/work";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { SHIPPED_FONTS } from "@hardline/core/letters/shipped";
import { readyFonts, typefaceOf, type FontSource } from "@hardline/core/letters/shelf";
import { type Typeface } from "@hardline/core/letters/typeface";
import { whichFont } from "@hardline/core/letters/whichFont";
import { setWords, type HowSet } from "@hardline/core/letters/words";
import { shippedFont } from "@hardline/fonts";
import { takeIn } from "@hardline/intake";
import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";

/*
 * Words: as Debian's own drawing of text sets them in the very same files; how soon they are there while one types; which font
 * traced letters are in; whether thirty names fit their box.
 */

/** Fonts of Debian that stand for a shop's own. */
const OWN = [
  "C059-Roman.otf",
  "NimbusRoman-Bold.otf",
  "NimbusSans-Regular.otf",
  "NimbusSans-Bold.otf",
  "NimbusSansNarrow-Bold.otf",
  "P052-Roman.otf",
  "URWBookman-Demi.otf",
  "URWGothic-Book.otf",
  "URWGothic-Demi.otf",
  "NimbusMonoPS-Regular.otf",
];
const FOLDER = "/usr/share/fonts/opentype/urw-base35";

const source: FontSource = {
  bytes: async (key) => (existsSync(join(FOLDER, key)) ? readFileSync(join(FOLDER, key)) : shippedFont(key)),
};
const USUAL: HowSet = {
  ...{ text: "", capitalMm: 8, trackingPercent: 0, leading: 1.6, align: "left", bridgeMm: 0 },
};
const set = (face: Typeface, how: Partial<HowSet>) => runToEnd(setWords(face, { ...USUAL, ...how }));
const dataOf = (paths: readonly KnotPath[]) =>
  pathData(pathSetOf({ name: "", use: "fill", colour: 0 }, paths));

const SIZE = { width: 1600, height: 200 };
/** An em, and where the line begins, in pixels of the comparison. */
const [EM, LEFT, FOOT] = [90, 40, 130];
/** Without letters that are drawn as one: the other drawing parts those. */
const SENTENCE = "AVATAR To. Žaneta Übel Łódź 1908";

/** The words as a library of Debian draws them: Pango and FreeType, from the files alone. */
function drawnByOthers(folder: string, family: string): Buffer {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}"><rect width="100%" height="100%" fill="#fff"/><text x="${LEFT}" y="${FOOT}" font-family="${family}" font-size="${EM}" xml:space="preserve">${SENTENCE}</text></svg>`;
  writeFileSync(join(folder, "text.svg"), svg);
  execFileSync("rsvg-convert", [join(folder, "text.svg"), "-o", join(folder, "text.png")], {
    env: { ...process.env, FONTCONFIG_FILE: join(folder, "fonts.conf") },
  });
  return readFileSync(join(folder, "text.png"));
}

async function greys(image: Buffer): Promise<Buffer> {
  return sharp(image).greyscale().raw().toBuffer();
}

async function beside(folder: string): Promise<void> {
  console.log("font           off, share of the letters' area   where they end, px off");
  for (const { key, name } of SHIPPED_FONTS) {
    const face = typefaceOf(key)!;
    if (face.isLines) continue;
    const { paths } = set(face, { text: SENTENCE, capitalMm: face.capital * EM });
    // Of one line the middle of its capitals is set: the foot lies half of one below.
    const y = FOOT - (face.capital * EM) / 2;
    const own = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}"><rect width="100%" height="100%" fill="#fff"/><path transform="translate(${LEFT} ${y})" fill-rule="evenodd" d="${dataOf(paths)}"/></svg>`;
    const [a, b] = [
      await greys(await sharp(Buffer.from(own)).png().toBuffer()),
      await greys(drawnByOthers(folder, name)),
    ];
    let [off, ink, endA, endB] = [0, 0, 0, 0];
    for (let i = 0; i < a.length; i++) {
      off += Math.abs(a[i] - b[i]);
      ink += 255 - b[i];
      if (a[i] < 128) endA = Math.max(endA, i % SIZE.width);
      if (b[i] < 128) endB = Math.max(endB, i % SIZE.width);
    }
    console.log(
      `${key.padEnd(14)} ${(off / ink).toFixed(4).padStart(8)} ${String(Math.abs(endA - endB)).padStart(24)}`,
    );
  }
}

/** How long the words take, letter by letter as they are typed. */
function typing(): void {
  console.log("\nfont           ms a letter typed: median, worst of 28");
  const name = "Bartholomew Featherstone & Co";
  for (const { key } of SHIPPED_FONTS) {
    const face = typefaceOf(key)!;
    const times: number[] = [];
    for (let k = 1; k <= name.length; k++) {
      const began = performance.now();
      set(face, { text: name.slice(0, k) });
      times.push(performance.now() - began);
    }
    times.sort((p, q) => p - q);
    console.log(
      `${key.padEnd(14)} ${times[times.length >> 1].toFixed(1).padStart(8)} ${times[times.length - 1].toFixed(1).padStart(8)}`,
    );
  }
}

const WORDS = ["Hamburg", "Sails & Rope", "Quay 24", "MARINE", "Freshly"];

/** Letters as they come: drawn at 150 dots to the inch, through a JPEG, traced. */
async function traced(face: Typeface, text: string): Promise<KnotPath[][]> {
  const { paths, box } = set(face, { text, trackingPercent: 6, capitalMm: 7 });
  const [x, y, w, h] = [box!.x - 3, box!.y - 3, box!.width + 6, box!.height + 6];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${x} ${y} ${w} ${h}"><rect x="${x}" y="${y}" width="${w}" height="${h}" fill="#fff"/><path fill-rule="evenodd" d="${dataOf(paths)}"/></svg>`;
  const jpeg = await sharp(Buffer.from(svg), { density: 150 }).jpeg({ quality: 75 }).toBuffer();
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Letters" },
    stages: [{ stage: "size", widthMm: w, dotsPerInch: 254 }, { stage: "trace" }],
  });
  const results = await new Runner().run(route, await takeIn(jpeg));
  const found = knotPathsOf(as(results[results.length - 1].result, "paths").sets[0]);
  const shapes = found.map((_, k) => shapeOf(found, k, () => true));
  const holes = new Set(shapes.flatMap((shape) => shape.slice(1)));
  return shapes.filter(([f]) => !holes.has(f)).map((shape) => shape.map((k) => found[k]));
}

async function which(): Promise<void> {
  const keys = [...SHIPPED_FONTS.map((f) => f.key).filter((k) => !typefaceOf(k)!.isLines), ...OWN];
  const fonts = keys.map((key) => [key, typefaceOf(key)!] as const);
  console.log(
    "\nfont                       right first   among three   letters read   (of 5 words, traced; * set no rule)",
  );
  let [first, three, count] = [0, 0, 0];
  for (const [k, [key, face]] of fonts.entries()) {
    let [own, among, read] = [0, 0, 0];
    for (const text of WORDS) {
      const found = runToEnd(whichFont(await traced(face, text), fonts));
      if (found[0].font === key) own++;
      if (found.slice(0, 3).some((f) => f.font === key)) among++;
      const mine = found.find((f) => f.font === key)!.read.replace(/ /g, "");
      if (mine === text.replace(/ /g, "")) read++;
    }
    if (own >= 3) first++;
    if (among >= 3) three++;
    count++;
    console.log(
      `${(key + (k % 3 === 2 ? " *" : "")).padEnd(28)} ${own} of 5 ${String(among).padStart(9)} of 5 ${String(read).padStart(10)} of 5`,
    );
  }
  console.log(`right first: ${first} of ${count} fonts, among three: ${three} of ${count} (asked: 8 of 10)`);
}

function names(): void {
  const first = ["Ada", "Wilhelmina", "Žoë", "Bartholomew", "Jo", "Anneliese"];
  const last = ["Featherstonehaugh", "Öz", "Larkhill", "Ó Súilleabháin", "Quay"];
  const all = first.flatMap((f) => last.map((l) => `${f} ${l}`));
  console.log("\nthirty names in a box of 60 by 16 mm, capitals of 12 mm wished");
  for (const tooLong of ["shrink", "break", "tell"] as const) {
    const made = all.map((text) =>
      set(typefaceOf("serif")!, {
        text,
        capitalMm: 12,
        align: "middle",
        box: { widthMm: 60, heightMm: 16, tooLong },
      }),
    );
    const inside = made.filter(({ box }) => box!.width <= 60.001 && box!.height <= 16.001).length;
    const capitals = made.map((m) => m.capitalMm);
    console.log(
      `${tooLong.padEnd(8)} ${inside} of 30 inside, told of ${made.filter((m) => !m.fits).length}, capitals ${Math.min(...capitals).toFixed(2)} to ${Math.max(...capitals).toFixed(2)} mm`,
    );
  }
}

async function main(): Promise<void> {
  await readyFonts([...SHIPPED_FONTS.map((f) => f.key), ...OWN], source);
  const folder = mkdtempSync(join(tmpdir(), "hard-line-words-"));
  writeFileSync(
    join(folder, "fonts.conf"),
    `<?xml version="1.0"?><fontconfig><dir>${join(__dirname, "../../packages/fonts/files")}</dir><cachedir>${folder}</cachedir></fontconfig>`,
  );
  try {
    await beside(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  typing();
  await which();
  names();
}

void main();
