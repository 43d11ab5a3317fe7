import { runToEnd } from "../maths/work";
import { pictureOf } from "../testing/clearings";
import { seeded } from "../testing/pictures";
import { ColourTable } from "./alike";
import { pick } from "./pick";
import { previewPick } from "./preview";

const table = new ColourTable();
/** A pale ground with dark walls about rooms; a door in some. */
const next = seeded(12);
const picture = pictureOf(2400, 1600, (x, y) => {
  const [u, v] = [x % 400, y % 400];
  const wall = u < 12 || v < 12;
  const door = (Math.floor(x / 400) + Math.floor(y / 400)) % 2 === 0 && u > 150 && u < 240;
  const g = next() % 6;
  return wall && !door ? [30 + g, 40 + g, 60 + g] : [230 + g, 226 + g, 214 + g];
});

/** How much of the screen differs from what a click would really take. */
function difference(
  at: [number, number],
  joined: boolean,
  part: { x: number; y: number; width: number; height: number },
) {
  const [width, height] = [600, 400];
  const { mask, share } = previewPick(picture, at[0], at[1], 9, joined, part, width, height, table);
  const truth = runToEnd(pick(picture, at[0], at[1], 9, joined));
  let off = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = Math.floor(part.x + ((x + 0.5) * part.width) / width);
      const v = Math.floor(part.y + ((y + 0.5) * part.height) / height);
      if (truth.mask[v * 2400 + u] !== mask[y * width + x]) off++;
    }
  return { off: off / (width * height), share, truth: truth.pixels / (2400 * 1600) };
}

test.each<[string, { x: number; y: number; width: number; height: number }]>([
  ["the whole picture", { x: 0, y: 0, width: 2400, height: 1600 }],
  ["a quarter", { x: 300, y: 200, width: 1200, height: 800 }],
  ["dot for dot", { x: 700, y: 500, width: 600, height: 400 }],
  ["enlarged", { x: 820, y: 610, width: 150, height: 100 }],
])("what is hatched is what a click takes: %s in view", (_, part) => {
  for (const joined of [true, false]) {
    const { off, share, truth } = difference([830, 650], joined, part);
    expect(off).toBeLessThan(0.02);
    expect(Math.abs(share - truth)).toBeLessThan(0.02);
  }
});
