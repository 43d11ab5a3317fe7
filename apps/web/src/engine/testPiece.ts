import { MM_PER_INCH } from "@hardline/core/maths/units";
import { packRow } from "@hardline/core/raster/bits";
import { bitAt, newBits, type Bits } from "@hardline/core/raster/types";

/** Room around variants, height of their labels and of the title, in millimetres. */
const GAP_MM = 3;
const LABEL_MM = 2.6;
/** Fewer dots than this make no letter. */
const LEAST_LETTER = 11;
/** Variants in a row. */
const ACROSS = 5;
/** How dark a dot of a letter must be to be marked, of 255. */
const MARKED = 110;

/** Variants beside each other with a label under each and a title above: one bitmap to be burned or printed on a scrap. */
export function testPieceOf(
  parts: readonly Bits[],
  labels: readonly string[],
  title: string,
  dotsPerInch: number,
): Bits {
  const dots = (mm: number): number => Math.round((mm * dotsPerInch) / MM_PER_INCH);
  const [gap, letter] = [dots(GAP_MM), Math.max(LEAST_LETTER, dots(LABEL_MM))];
  const { width, height } = parts[0];
  const across =
    parts.length <= ACROSS ? parts.length : Math.ceil(parts.length / Math.ceil(parts.length / ACROSS));
  const down = Math.ceil(parts.length / across);
  const line = Math.round(1.5 * letter);
  const whole = {
    width: across * (width + gap) + gap,
    height: gap + line + down * (height + line + gap),
  };
  const canvas = new OffscreenCanvas(whole.width, whole.height);
  const pen = canvas.getContext("2d")!;
  pen.font = `${letter}px sans-serif`;
  pen.textBaseline = "top";
  pen.fillText(title, gap, Math.round(gap / 2), whole.width - 2 * gap);
  const at = parts.map((_, k): [number, number] => [
    gap + (k % across) * (width + gap),
    gap + line + Math.floor(k / across) * (height + line + gap),
  ]);
  for (const [k, [x, y]] of at.entries())
    pen.fillText(labels[k], x, y + height + Math.round(0.25 * letter), width);
  const letters = pen.getImageData(0, 0, whole.width, whole.height).data;
  const bits = newBits(whole.width, whole.height);
  const row = new Uint8Array(whole.width);
  for (let y = 0; y < whole.height; y++) {
    for (let x = 0, i = 4 * y * whole.width + 3; x < whole.width; x++, i += 4)
      row[x] = +(letters[i] > MARKED);
    for (const [k, [left, top]] of at.entries())
      if (y >= top && y < top + height)
        for (let x = 0; x < width; x++) row[left + x] = bitAt(parts[k], x, y - top);
    packRow(row, bits, y);
  }
  return bits;
}
