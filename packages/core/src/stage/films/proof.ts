import { type Doing } from "../../maths/work";
import { numberOf } from "../../colour/oklab";
import { writeRgbaPng } from "../../format/png";
import { writeProofPdf } from "../../film/proofPdf";
import { packedPlanes } from "../../format/pack";
import { layProof, type ProofSheet } from "../../film/proofSheet";
import { drawProof, PROOF_DPI } from "../../film/drawProof";
import { proofIn } from "../../film/seen";
import { wayView, type Colourway } from "../../recolour/colourway";
import { figure } from "../../inspect/check";
import { type Rgba } from "../../raster/types";
import { type Plates } from "../../result/result";
import { type DeliveredFile } from "../stage";
import { type FilmsSettings } from "./settings";

/** Longest side of a picture on the proof, in pixels. */
const PICTURE = 900;

/** The colourways that are to be shown, on one sheet for the customer, as a picture and as a page. */
export async function* customerProof(
  result: Plates,
  { garment }: Pick<FilmsSettings, "garment">,
  doing: Doing,
  job: string,
  shown: readonly Colourway[],
): AsyncIterable<DeliveredFile> {
  if (shown.length === 0) return;
  const { finish, plates, print } = result;
  const by = Math.min(1, PICTURE / Math.max(finish.widthPx, finish.heightPx));
  const [width, height] = [finish.widthPx, finish.heightPx].map((v) => Math.max(1, Math.round(v * by)));
  const ways = [{ name: "As separated", garment, colours: {} }, ...shown];
  const pictures: Rgba[] = [];
  for (const way of ways) pictures.push(await doing(proofIn(result, width, height, wayView(way))));
  const sheet: ProofSheet = layProof({
    title: job,
    size: `Printed ${figure(finish.widthMm)} × ${figure(finish.heightMm)} mm, ${plates.length} ${plates.length === 1 ? "ink" : "inks"}`,
    aspect: width / height,
    ways: ways.map((way) => ({
      name: way.name,
      garment: numberOf(way.garment),
      inks: print!.chosen.map(({ name, colour }) => ({
        name,
        colour: numberOf((way.colours as Record<string, string>)[name] ?? colour),
      })),
    })),
  });
  const drawnSheet = await doing(drawProof(sheet, pictures));
  yield {
    name: "colourways.png",
    mediaType: "image/png",
    bytes: await doing(writeRgbaPng(drawnSheet, PROOF_DPI)),
  };
  const packed = [];
  for (const picture of pictures) packed.push({ picture, ...(await doing(packedPlanes(picture))) });
  yield { name: "colourways.pdf", mediaType: "application/pdf", bytes: await writeProofPdf(sheet, packed) };
}
