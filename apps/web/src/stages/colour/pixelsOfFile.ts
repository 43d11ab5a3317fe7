import { type Rgba } from "@hardline/core/raster/types";

/** A side of a picture that colours are taken from: more says nothing more of them. */
const MOST = 400;

/** A picture of the operator's own, small, as the browser reads it. @throws where it cannot */
export async function pixelsOfFile(file: File): Promise<Rgba> {
  const bitmap = await createImageBitmap(file);
  const by = Math.min(1, MOST / Math.max(bitmap.width, bitmap.height));
  const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * by)));
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext("2d")!;
  pen.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const { data } = pen.getImageData(0, 0, width, height);
  return { width, height, data: new Uint8Array(data.buffer) };
}
