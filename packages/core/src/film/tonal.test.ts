import { cielabOf, ciede2000 } from "../colour/ciede2000";
import { LINEAR_OF_CODE } from "../colour/srgb";
import { runToEnd } from "../maths/work";
import { type Rgba } from "../raster/types";
import { seeded } from "../testing/pictures";
import { lightOf, printedLight } from "./model";
import { separateTonal } from "./tonal";

const colours = [0x0a5173, 0x063e61, 0x092d43, 0x031b2b, 0x000000];
const layers = colours.map((colour) => ({ colour, light: lightOf(colour), opacity: 1 }));
const garment = 0xffffff;

/** A picture of mixtures of the inks, nearly black, with a grain. */
function dark(side: number, grain: number): Rgba {
  const next = seeded(3);
  const data = new Uint8Array(4 * side * side).fill(255);
  for (let i = 0; i < side * side; i++) {
    const [x, y] = [(i % side) / side, Math.floor(i / side) / side];
    const of = [2 + 6 * x * y, 10 + 55 * x, 20 + 80 * x * (1 - 0.3 * y)];
    of.forEach(
      (v, c) => (data[4 * i + c] = Math.max(0, Math.round(v + grain * (((next() & 255) / 255) * 2 - 1)))),
    );
  }
  return { width: side, height: side, data };
}

const printed = (planes: readonly Uint8Array[], i: number): Float64Array => {
  const out = new Float64Array(3);
  const amounts = planes.map((p) => (255 - p[i]) / 255);
  printedLight(lightOf(garment), layers, amounts, out);
  return out;
};

test("what lies between two solutions by other inks prints as its own colour, in nearly black pictures too", () => {
  const picture = dark(90, 3);
  const planes = runToEnd(separateTonal(picture, { layers, garment }));
  const off = Array.from({ length: 90 * 90 }, (_, i) => {
    const [r, g, b] = [0, 1, 2].map((c) => LINEAR_OF_CODE[picture.data[4 * i + c]]);
    const [pr, pg, pb] = printed(planes, i);
    return ciede2000(cielabOf(pr, pg, pb), cielabOf(r, g, b));
  }).sort((a, b) => a - b);
  expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(8);
});

test("a picture comes out the same, whatever was separated with the same inks before", () => {
  const picture = dark(40, 0);
  const first = runToEnd(separateTonal(picture, { layers, garment }));
  runToEnd(separateTonal(dark(64, 12), { layers, garment }));
  expect(runToEnd(separateTonal(picture, { layers, garment }))).toEqual(first);
});
