import { type Doing } from "../../maths/work";
import { encodeGroup4 } from "../../format/fax";
import { writeBitsPdf } from "../../format/pdf";
import { writeBitsPng } from "../../format/png";
import { writeBitsTiff } from "../../format/tiff";
import { type Bits } from "../../raster/types";
import { type Finish } from "../../result/finish";
import { type DeliveredFile } from "../stage";

/** A bitmap as PNG, as TIFF and on a page of exactly its size. */
export async function* bitmapFiles(
  name: string,
  bits: Bits,
  { dotsPerInch, widthMm, heightMm }: Pick<Finish, "dotsPerInch" | "widthMm" | "heightMm">,
  doing: Doing,
): AsyncIterable<DeliveredFile> {
  const png = await doing(writeBitsPng(bits, dotsPerInch));
  yield { name: `${name}.png`, mediaType: "image/png", bytes: png };
  const group4 = await doing(encodeGroup4(bits));
  yield { name: `${name}.tif`, mediaType: "image/tiff", bytes: writeBitsTiff(bits, group4, dotsPerInch) };
  const pdf = await writeBitsPdf(bits, group4, widthMm, heightMm);
  yield { name: `${name}.pdf`, mediaType: "application/pdf", bytes: pdf };
}
