import { type Colourway } from "../../recolour/colourway";
import { type Doing } from "../../maths/work";
import { encodeGroup4 } from "../../format/fax";
import { writeFilmsPdf, type FilmPage, type PlacedDots } from "../../format/filmPdf";
import { writeBitsPng, writeRgbaPng } from "../../format/png";
import { writeBitsTiff } from "../../format/tiff";
import { type Ink } from "../../film/ink";
import { proofOf } from "../../film/seen";
import { figure } from "../../inspect/check";
import { mmOfDots } from "../../maths/units";
import { mirroredBits } from "../../raster/mirror";
import { type Bits } from "../../raster/types";
import { type Finish } from "../../result/finish";
import { type Plates } from "../../result/result";
import { type DeliveredFile } from "../stage";
import { plateMethodOf } from "../../dots/methods";
import { dottingOf, screenOf } from "./dotting";
import { LINE_MM, marginFor, wedgeFor, WEDGE } from "./margin";
import { customerProof } from "./proof";
import { fileWord, type FilmsSettings } from "./settings";

/** Every ink's film by itself and all of them in one document, and what the print will look like. */
export async function* filmFiles(
  result: Plates,
  settings: FilmsSettings,
  doing: Doing,
  job: string,
  ways: readonly Colourway[],
): AsyncIterable<DeliveredFile> {
  const { plates, finish, print } = result;
  const pages: FilmPage[] = [];
  for (const [k, { name, bits }] of plates.entries()) {
    const own = settings.mirror ? await doing(mirroredBits(bits)) : bits;
    const file = `film-${fileWord(name)}`;
    const png = await doing(writeBitsPng(own, finish.dotsPerInch));
    yield { name: `${file}.png`, mediaType: "image/png", bytes: png };
    const group4 = await doing(encodeGroup4(own));
    const tiff = writeBitsTiff(own, group4, finish.dotsPerInch);
    yield { name: `${file}.tif`, mediaType: "image/tiff", bytes: tiff };
    const page = await pageOf(own, group4, print!.chosen[k], k, plates.length, finish, settings, doing, job);
    yield { name: `${file}.pdf`, mediaType: "application/pdf", bytes: await writeFilmsPdf([page]) };
    pages.push(page);
  }
  yield { name: "films.pdf", mediaType: "application/pdf", bytes: await writeFilmsPdf(pages) };
  const proof = await doing(proofOf(result));
  const perInch = (proof.width / finish.widthPx) * finish.dotsPerInch;
  yield { name: "proof.png", mediaType: "image/png", bytes: await doing(writeRgbaPng(proof, perInch)) };
  yield* customerProof(result, settings, doing, job, ways);
}

async function pageOf(
  bits: Bits,
  group4: Uint8Array,
  ink: Ink,
  k: number,
  of: number,
  finish: Finish,
  settings: FilmsSettings,
  doing: Doing,
  job: string,
): Promise<FilmPage> {
  const { widthMm, heightMm } = finish;
  const art = (xMm: number): PlacedDots => ({ bits, group4, xMm, yMm: xMm, widthMm, heightMm });
  const bare = { widthMm, heightMm, lines: [], words: [], lineMm: LINE_MM, mirror: settings.mirror };
  if (!settings.marks) return { ...bare, dots: [art(0)] };
  const screen = screenOf(ink, settings);
  const words = [
    job,
    `${ink.name}, film ${k + 1} of ${of}`,
    plateMethodOf(screen).plate.words(screen, WEDGE.length),
    sizeWords(finish, settings),
  ];
  const { mm, lines, words: letters } = marginFor(finish, words.join("   "));
  const dotting = await doing(dottingOf(screen, k, finish.dotsPerInch));
  const wedge = await doing(wedgeFor(finish, dotting));
  const dots = [art(mm)];
  if (wedge) {
    const own = settings.mirror ? await doing(mirroredBits(wedge)) : wedge;
    const size = { widthMm: mmOfDots(wedge.width, finish), heightMm: mmOfDots(wedge.height, finish) };
    const code = await doing(encodeGroup4(own));
    dots.push({ bits: own, group4: code, xMm: mm, yMm: mm + heightMm + 6, ...size });
  }
  return { ...bare, widthMm: widthMm + 2 * mm, heightMm: heightMm + 2 * mm, dots, lines, words: letters };
}

const sizeWords = ({ widthMm, heightMm, dotsPerInch }: Finish, { mirror }: FilmsSettings): string =>
  `${figure(widthMm)} × ${figure(heightMm)} mm, ${figure(dotsPerInch)} dpi${mirror ? ", emulsion side" : ""}`;
