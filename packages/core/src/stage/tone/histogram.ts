import { type Toned } from "../../route/art";

/** How many pixels of the art have each grey value 0..255. */
export function histogramOf({ gray, cover }: Toned): number[] {
  const counts = new Uint32Array(256);
  const { data } = gray;
  if (cover === null) for (let i = 0; i < data.length; i++) counts[data[i]]++;
  else for (let i = 0; i < data.length; i++) if (cover[i] !== 0) counts[data[i]]++;
  return Array.from(counts);
}
