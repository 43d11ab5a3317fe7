import { moveEdge, tidy } from "../clear/edge";
import { estimateForeground } from "../clear/foreground";
import { takeGaps } from "../clear/gaps";
import { pick } from "../clear/pick";
import { coverOfStrokes } from "../clear/strokes";
import { coverOf, greyOf } from "../colour/grey";
import { SOLID } from "../screen/dotting";
import { plateDots } from "../film/plateDots";
import { separateFlat } from "../film/flat";
import { choke } from "../film/moveEdge";
import { laidOver } from "../film/seen";
import { separateTonal } from "../film/tonal";
import { encodeGroup4 } from "../format/fax";
import { writeBitsPng, writeRgbaPng } from "../format/png";
import { runToEnd, type Work } from "../maths/work";
import { coverOfPolygon } from "../path/cover";
import { dotsFingerprint } from "../raster/fingerprint";
import { readyRgba } from "../raster/halve";
import { newBits, type Rgba } from "../raster/types";
import { otsuThreshold, threshold } from "../screen/threshold";
import { clearingFrom } from "../testing/clearings";
import { seeded } from "../testing/pictures";
import { applyTable } from "../tone/levels";
import { sharpen } from "../tone/sharpen";
import { histogramOf } from "./tone/histogram";

/*
 * Whoever drives a computation can stop it between two slices only. So everything that looks at each pixel comes in
 * slices: here of a picture of eight megapixels, of which none may be one slice.
 */
const [WIDTH, HEIGHT] = [3264, 2448];
const LEAST = 4;
const picture: Rgba = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT * 4).fill(255) };
const next = seeded(3);
for (let i = 0; i < picture.data.length; i += 4 * 97) picture.data[i] = next() & 255;
const gray = runToEnd(greyOf(picture));
const bits = newBits(WIDTH * 4, HEIGHT * 4);
const clearing = clearingFrom(picture);
const table = Uint8Array.from({ length: 256 }, (_, i) => i);
const stroke = {
  points: [
    [0.1, 0.1],
    [0.9, 0.9],
  ] as [number, number][],
  sizeMm: 900,
  softness: 1,
};
const outline: [number, number][] = [
  [5, 5],
  [WIDTH, 9],
  [WIDTH / 2, HEIGHT],
];

const WORKS: [string, () => Work<unknown>][] = [
  ["grey", () => greyOf(picture)],
  ["cover", () => coverOf(picture)],
  ["curve", () => applyTable(gray, table)],
  ["threshold", () => threshold(gray, 128)],
  ["Otsu", () => otsuThreshold(gray, null)],
  ["histogram", () => histogramOf({ gray, cover: null })],
  ["sharpen", () => sharpen(gray, null, 1, 1)],
  ["pick", () => pick(picture, 1, 1, 5, true)],
  ["gaps", () => takeGaps(clearing, { like: [0.5, 0.5], tolerance: 2, smallestPixels: 0, but: [] })],
  ["strokes", () => coverOfStrokes(clearing, [stroke])],
  ["outline", () => coverOfPolygon(outline, WIDTH, HEIGHT)],
  ["fringe", () => estimateForeground(clearing)],
  ["edge", () => moveEdge(clearing, 2, 2, true)],
  ["specks", () => tidy(clearing, 5, 5)],
  ["halves", () => readyRgba(picture, 4)],
  ["Group 4", () => encodeGroup4(bits)],
  ["PNG of dots", () => writeBitsPng(bits, 254)],
  ["fingerprint", () => dotsFingerprint(bits)],
  [
    "flat inks",
    () => separateFlat(picture, { inks: ["#c8102e", "#ffffff"], garment: "#101012", tolerance: 2 }),
  ],
  [
    "tonal inks",
    () =>
      separateTonal(picture, { layers: [{ colour: 0, light: [0, 0, 0], opacity: 1 }], garment: 0xffffff }),
  ],
  ["choke", () => choke(gray.data, new Uint8Array(WIDTH * HEIGHT).fill(1), WIDTH, HEIGHT, 3)],
  ["plate", () => plateDots({ ...gray, height: 900 }, 2, SOLID)],
  ["print", () => laidOver([gray], [{ light: [0, 0, 0], opacity: 1 }], [1, 1, 1], WIDTH, HEIGHT)],
  ["PNG in colour", () => writeRgbaPng({ ...picture, height: 400 }, 254)],
];

test.each(WORKS)("%s comes in slices, and tells how far it is", (_name, begin) => {
  const work = begin();
  let [slices, last] = [0, 0];
  for (let step = work.next(); !step.done; step = work.next()) {
    slices++;
    expect(step.value).toBeGreaterThanOrEqual(0);
    expect(step.value).toBeLessThanOrEqual(1.001);
    last = Math.max(last, step.value);
  }
  expect(slices).toBeGreaterThanOrEqual(LEAST);
});
