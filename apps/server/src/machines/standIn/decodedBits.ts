import { newBits, type Bits } from "@hardline/core/raster/types";
import sharp from "sharp";

/** The dots of a 1-bit TIFF, by a decoder that is not the product's own. */
export async function decodedBits(bytes: Buffer): Promise<{ bits: Bits; dotsPerInch: number }> {
  const image = sharp(bytes, { limitInputPixels: false });
  const { density = 720 } = await image.metadata();
  const { data, info } = await image.toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
  const bits = newBits(info.width, info.height);
  const step = info.channels;
  for (let y = 0; y < info.height; y++)
    for (let x = 0; x < info.width; x++)
      if (data[(y * info.width + x) * step] < 128) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  return { bits, dotsPerInch: density };
}
