import { type Doing } from "../../maths/work";
import { bledUnder } from "../../clear/bleed";
import { packedBytes, packedPlanes } from "../../format/pack";
import { writeGrayPng, writeRgbaPng } from "../../format/png";
import { writeTransferPdf } from "../../format/transferPdf";
import { mirroredGray, mirroredRgba } from "../../raster/mirror";
import { type Picture } from "../../result/result";
import { type DeliveredFile } from "../stage";
import { type TransferSettings } from "./settings";

/** Colour and white as two pictures, and as one page on which white is an ink of its own. */
export async function* transferFiles(
  { colour, onGarment, finish }: Picture,
  { mirror }: TransferSettings,
  doing: Doing,
): AsyncIterable<DeliveredFile> {
  const { width, height } = colour;
  const plane = { width, height, data: onGarment!.white };
  const clean = await doing(bledUnder(colour));
  const art = mirror ? await doing(mirroredRgba(clean)) : clean;
  const white = mirror ? await doing(mirroredGray(plane)) : plane;
  const bytes = await doing(writeRgbaPng(art, finish.dotsPerInch));
  yield { name: "colour.png", mediaType: "image/png", bytes };
  const grey = await doing(writeGrayPng(white, finish.dotsPerInch));
  yield { name: "white.png", mediaType: "image/png", bytes: grey };
  const packed = { picture: art, ...(await doing(packedPlanes(art))) };
  const layer = await doing(packedBytes(white.data));
  const pdf = await writeTransferPdf(
    packed,
    { width, height, bytes: layer },
    finish.widthMm,
    finish.heightMm,
  );
  yield { name: "transfer.pdf", mediaType: "application/pdf", bytes: pdf };
}
