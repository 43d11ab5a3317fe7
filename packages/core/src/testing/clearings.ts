import { type Clearing } from "../clear/clearing";
import { WHOLE_FRAME } from "../path/frame";
import { type Rgba } from "../raster/types";
import { asItIs } from "../result/finish";
import { type Picture } from "../result/result";
import { type ClearSettings } from "../stage/clear/settings";
import { readRoute, settingsOf } from "../route/route";

/** A picture from a colour and an alpha for each pixel. */
export function pictureOf(
  width: number,
  height: number,
  at: (x: number, y: number) => readonly [number, number, number, number?],
): Rgba {
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    const [r, g, b, a = 255] = at(i % width, Math.floor(i / width));
    data.set([Math.round(r), Math.round(g), Math.round(b), Math.round(a)], i * 4);
  }
  return { width, height, data };
}

/** Ten dots a millimetre, nothing cleared yet. */
export const clearingFrom = (source: Rgba, more: Partial<Clearing> = {}): Clearing => ({
  source,
  data: source.data.slice(),
  taken: new Uint8Array(source.width * source.height),
  held: null,
  frame: WHOLE_FRAME,
  dotsPerMm: 10,
  ...more,
});

export const alphaAt = ({ source, data }: Pick<Clearing, "source" | "data">, x: number, y: number): number =>
  data[(y * source.width + x) * 4 + 3];

/** A picture at ten dots a millimetre, as a stage takes it. */
export const artFrom = (colour: Rgba): Picture => ({
  kind: "picture",
  ...asItIs(colour),
  colour,
  cleared: null,
});

/** Settings of Clear as a route file gives them. */
export const clearSettings = (given: object): ClearSettings =>
  settingsOf(
    readRoute({ format: "hard-line-route", version: 1, name: "A", stages: [{ stage: "clear", ...given }] }),
    "clear",
  )!;
