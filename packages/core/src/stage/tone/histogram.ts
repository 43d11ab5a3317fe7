import { rowsAtOnce, type Work } from "../../maths/work";
import { type Tone } from "../../result/result";

/** How many pixels of the art have each grey value 0..255. */
export function* histogramOf({ gray, cover }: Pick<Tone, "gray" | "cover">): Work<number[]> {
  const counts = new Uint32Array(256);
  const { data, width } = gray;
  const atOnce = 4 * rowsAtOnce(width) * width;
  for (let from = 0; from < data.length; from += atOnce) {
    yield from / data.length;
    const to = Math.min(data.length, from + atOnce);
    if (cover === null) for (let i = from; i < to; i++) counts[data[i]]++;
    else for (let i = from; i < to; i++) if (cover[i] !== 0) counts[data[i]]++;
  }
  return Array.from(counts);
}
