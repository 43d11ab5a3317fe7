import { type Doing } from "../../maths/work";
import { numberOf } from "../../colour/oklab";
import { FLAT_MM } from "../../cutLine/base";
import { printOf, type Under } from "../../cutLine/print";
import { pathFiles } from "../../format/pathFormats";
import { packedPlanes } from "../../format/pack";
import { writePathsPdf } from "../../format/pathsPdf";
import { writeRgbaPng } from "../../format/png";
import { ringsInSlices } from "../../path/flatten";
import { boxWith } from "../../path/pathSet";
import { wayWord, type Colourway } from "../../recolour/colourway";
import { recoloured } from "../../recolour/recolour";
import { type Paths } from "../../result/result";
import { type DeliveredFile } from "../stage";
import { type CutLineSettings } from "./settings";

/** The cut line in open formats, and, when it is wished, the picture cut to it. */
export async function* cutFiles(
  { sets, finish, cut }: Paths,
  { print }: CutLineSettings,
  doing: Doing,
  ways: readonly Colourway[],
): AsyncIterable<DeliveredFile> {
  const run = sets.filter((s) => s.use !== "print");
  const box = boxWith(sets, finish.widthMm, finish.heightMm);
  yield* pathFiles("cut", run, box, doing);
  const edge = sets.find((s) => s.use === "print");
  if (!print || !edge || !cut || edge.closed.length === 0) return;
  const under: Under =
    print.under === "colour" ? { kind: "colour", colour: numberOf(print.colour) } : { kind: print.under };
  const rings = await doing(ringsInSlices(edge, FLAT_MM));
  const changed = ways.filter((way) => way.recolour.length > 0);
  for (const way of [null, ...changed]) {
    const name = way ? `print-${wayWord(way.name)}` : "print";
    const art = await doing(recoloured(cut.art, way?.recolour ?? []));
    const { picture, xMm, yMm, widthMm, heightMm } = await doing(printOf(art, rings, under, finish));
    const png = await doing(writeRgbaPng(picture, finish.dotsPerInch));
    yield { name: `${name}.png`, mediaType: "image/png", bytes: png };
    const packed = await doing(packedPlanes(picture));
    const page = { picture, ...packed, x: xMm, y: yMm, width: widthMm, height: heightMm };
    const pdf = await writePathsPdf(run, box, page, doing);
    yield { name: `${name}.pdf`, mediaType: "application/pdf", bytes: pdf };
  }
}
