import { type FontRead } from "@hardline/contract";
import { runToEnd } from "@hardline/core/maths/work";
import { keptHalves } from "@hardline/core/raster/keptHalves";
import { type Rgba } from "@hardline/core/raster/types";
import { readArtwork } from "@hardline/core/reading/reading";
import { fontFault, fontName } from "@hardline/core/letters/fontFault";
import { startShaper } from "@hardline/core/letters/shaper";
import { Typeface } from "@hardline/core/letters/typeface";
import { setWords } from "@hardline/core/letters/words";
import { readWedge, WedgeError } from "@hardline/core/wedge/readPhoto";
import { IntakeError, pagesOf, pathsOf, takeIn } from "@hardline/intake";
import { readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import sharp from "sharp";
import { endWithParent } from "../processes/endWithParent";
import { type Answer, type Asked } from "./protocol";

const THUMBNAIL = 320;
/** Width at which artwork made of shapes is read. */
const READ_WIDTH = 1200;

// One thread each: what is decoded must leave room for who waits for a page.
sharp.concurrency(1);
sharp.cache(false);

/** The process that decodes what strangers made. Nothing but files goes in and out, and it can be killed at any time. */
process.on("message", (asked: Asked) => {
  answer(asked)
    .catch((error: Error): Answer => {
      return error instanceof IntakeError || error instanceof WedgeError
        ? { refused: error.message }
        : { fault: error.stack ?? error.message };
    })
    .then((reply) => process.send?.(reply))
    .catch(() => process.exit(1));
});
process.on("disconnect", () => process.exit(0));
endWithParent();

/** Says how far it is, to whoever waits. */
const tell = (progress: number, doing: string): void => void process.send?.({ progress, doing }, () => {}); // who waited may be gone

async function answer(asked: Asked): Promise<Answer> {
  if (asked.what === "wedge") {
    const photo = await (await takeIn(await readFile(asked.file))).pixels();
    return { wedge: readWedge(photo, asked.dotsPerInch, asked.burnsPale) };
  }
  if (asked.what === "halve") {
    const picture = await (await takeIn(await readFile(asked.file))).pixels();
    return { halves: await halvesOf(picture, asked.folder) };
  }
  if (asked.what === "font") return { font: await fontRead(await readFile(asked.file)) };
  if (asked.what === "pages") return { pages: await pagesOf(await readFile(asked.file)) };
  if (asked.what === "paths") return { paths: await pathsOf(await readFile(asked.file), asked.part) };
  tell(0.05, "reading the file");
  const intake = await takeIn(await readFile(asked.file), asked.part);
  const { facts, kind, pages, boxes, layers, widthMm } = intake;
  if (asked.what === "draw") {
    const drawn = join(asked.folder, "drawn.png");
    const picture = await intake.pixels(asked.width);
    const small = facts.vector ? losslessPng(picture) : fittedPng(picture, asked.width);
    await writeFile(drawn, await small);
    return { drawn };
  }
  if (facts.width * facts.height > asked.mostPixels && !facts.vector) return { tooLarge: true };
  tell(0.15, "decoding the picture");
  const picture = await intake.pixels(facts.vector ? Math.min(facts.width, READ_WIDTH) : undefined);
  tell(0.4, "making a small picture of it");
  const thumbnail = join(asked.folder, "thumbnail.png");
  await writeFile(thumbnail, await fittedPng(picture, THUMBNAIL));
  tell(0.5, "looking at what it is");
  const reading = readArtwork(picture, facts);
  tell(0.65, "writing its pixels");
  const pixels = facts.vector ? null : join(asked.folder, "pixels.png");
  if (pixels) await writeFile(pixels, await losslessPng(picture));
  const halves = pixels ? await halvesOf(picture, asked.folder) : [];
  const { notes } = intake;
  return { taken: { facts, pages, boxes, layers, widthMm, kind, notes, reading, pixels, halves, thumbnail } };
}

/** What a font's file holds, once a line was set in it. @throws IntakeError that says what is wrong with it */
async function fontRead(bytes: Uint8Array): Promise<FontRead> {
  const fault = fontFault(bytes);
  if (fault) throw new IntakeError(`The file ${fault}.`);
  await startShaper();
  const face = new Typeface(bytes);
  if (face.letters === 0) throw new IntakeError("The file is a font without letters.");
  const looked = runToEnd(setWords(face, { ...LOOKED_AT, text: face.someLetters(MOST_LOOKED_AT) }));
  if (looked.paths.length === 0) throw new IntakeError("The file is a font whose letters have no outlines.");
  return { name: fontName(bytes) ?? "Font without a name", letters: face.letters, isLines: face.isLines };
}

/** A line is set in a font that arrives: what cannot be set is refused here, not at the bench. */
const LOOKED_AT = { capitalMm: 10, trackingPercent: 0, leading: 1.6, align: "left", bridgeMm: 0 } as const;
const MOST_LOOKED_AT = 60;

const rawOf = ({ width, height }: Rgba) => ({ raw: { width, height, channels: 4 as const } });

/** Smaller copies as files, so well packed that a page has them soon. */
async function halvesOf(picture: Rgba, folder: string): Promise<string[]> {
  const files: string[] = [];
  for (const half of runToEnd(keptHalves(picture))) {
    const file = join(folder, `half-${files.length + 1}.png`);
    await writeFile(file, await losslessPng(half, 6));
    files.push(file);
  }
  return files;
}

async function losslessPng(picture: Rgba, compressionLevel = 2): Promise<Buffer> {
  let alpha = 255;
  for (let i = 3; i < picture.data.length; i += 4) alpha &= picture.data[i];
  const image = sharp(picture.data, { ...rawOf(picture), limitInputPixels: false });
  return (alpha === 255 ? image.removeAlpha() : image)
    .png({ compressionLevel, adaptiveFiltering: true })
    .toBuffer();
}

/** A small copy, no larger than it is. */
function fittedPng(picture: Rgba, side: number): Promise<Buffer> {
  return sharp(picture.data, { ...rawOf(picture), limitInputPixels: false })
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .png()
    .toBuffer();
}
