import { cielabOf, ciede2000 } from "../../colour/ciede2000";
import { numberOf } from "../../colour/oklab";
import { lightOf } from "../../film/model";
import { type Check } from "../../inspect/check";
import { type Rgba } from "../../raster/types";
import { asItIs } from "../../result/finish";
import { type Picture } from "../../result/result";
import { viewOf } from "../../result/view";
import { runToEnd } from "../../maths/work";
import { USUAL_LIMITS } from "../../inspect/limits";
import { deliveredBy, inspectStage, runStage } from "../../testing/running";

const [W, H] = [120, 100];

/** A wash: a disc that fades out over 3.6 mm, on nothing. */
function wash(): Picture {
  const data = new Uint8Array(4 * W * H);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 4) {
      const share = Math.min(1, Math.max(0, (46 - Math.hypot(x - 60, y - 50)) / 36));
      data.set([40, 90, 170, Math.round(255 * share)], o);
    }
  const colour: Rgba = { width: W, height: H, data };
  return { kind: "picture", ...asItIs({ width: W, height: H }), colour, cleared: null };
}
const art = wash();
const made = (given: object): Picture => runStage("transfer", art, given) as Picture;
const alphas = ({ colour }: Picture): Uint8Array => colour.data.filter((_, i) => i % 4 === 3);
const checks = (given: object): Record<string, Check> =>
  Object.fromEntries(
    inspectStage("transfer", made(given), given, USUAL_LIMITS, art).checks.map((c) => [c.id, c]),
  );

test("soft edges stay as they are, or become dots that cover as much", () => {
  expect(alphas(made({}))).toEqual(alphas(art));
  const dots = alphas(made({ edges: "dots" }));
  expect(new Set(dots)).toEqual(new Set([0, 255]));
  const sum = (a: Uint8Array) => a.reduce((s, v) => s + v, 0) / 255;
  expect(Math.abs(sum(dots) - sum(alphas(art))) / sum(alphas(art))).toBeLessThan(0.01);
  expect(checks({ edges: "dots" }).partCovered.value).toBe(0);
  expect(checks({}).partCovered.value).toBeGreaterThan(1000);
});

test("white lies under the art, as strong as asked, pulled in by the exact distance", () => {
  const { white } = made({ white: { chokeMm: 0.5, strength: 0.6 } }).onGarment!;
  const row = (x: number) => white[50 * W + x];
  expect(row(60)).toBe(153);
  expect(row(60 + 4)).toBe(153);
  // Whole art ends ten dots from the middle. The fade beyond falls by 7.08 a dot, so five dots in are 35.4 less.
  expect(Math.abs(row(60 + 30) - (113.3 - 35.4) * 0.6)).toBeLessThan(1);
  expect(made({ white: { chokeMm: 0, strength: 1 } }).onGarment!.white).toEqual(alphas(art));
});

test("black level and saturation change colours and nothing else", () => {
  const pixel = (given: object) =>
    Array.from(made(given).colour.data.subarray(4 * (50 * W + 60), 4 * (50 * W + 60) + 4));
  expect(pixel({})).toEqual([40, 90, 170, 255]);
  const [r, g, b] = pixel({ saturation: 0 });
  expect(r).toBe(g);
  expect(g).toBe(b);
  expect(pixel({ black: 0.2 })).toEqual([0, 49, 149, 255]);
  expect(pixel({ saturation: 1.5 })[2]).toBeGreaterThan(170);
});

test("the garment's colour is taken out", () => {
  expect(alphas(made({ garment: "#285aaa", knockOut: { tolerance: 5 } })).some((a) => a > 0)).toBe(false);
});

test("white that would peek out is told, and its repair mends it", () => {
  const loose = checks({ white: { chokeMm: 0, strength: 1 } }).whitePeeks;
  expect(loose.level).not.toBe("fine");
  expect(checks(loose.repair!.change).whitePeeks.level).toBe("fine");
});

test("it is seen on its garment, over its white", () => {
  const view = { part: { x: 0, y: 0, width: W, height: H }, width: W, height: H, base: 0xffffff };
  const seen = runToEnd(viewOf(made({ garment: "#101012" }), view));
  expect(Array.from(seen.data.subarray(0, 4))).toEqual([16, 16, 18, 255]);
  expect(Array.from(seen.data.subarray(4 * (50 * W + 60), 4 * (50 * W + 60) + 3))).toEqual([40, 90, 170]);
});

test("it is handed over as two pictures and one page, mirrored if asked", async () => {
  const files = await deliveredBy("transfer", made({}), {});
  expect(Object.keys(files)).toEqual(["colour.png", "white.png", "transfer.pdf"]);
  const text = Buffer.from(files["transfer.pdf"]).toString("latin1");
  expect(text).toContain("/Separation /White /DeviceRGB");
  const turned = await deliveredBy("transfer", runStage("transfer", art, { mirror: true }), { mirror: true });
  expect(turned["white.png"].length).toBeGreaterThan(100);
});

test("a wash that is nowhere whole has its white from well inside its edge", () => {
  const data = new Uint8Array(4 * W * H);
  for (let y = 20; y < 80; y++) for (let x = 30; x < 90; x++) data.set([40, 90, 170, 150], 4 * (y * W + x));
  const picture: Picture = { ...art, colour: { width: W, height: H, data } };
  const { white } = (runStage("transfer", picture, { white: { chokeMm: 0.2, strength: 1 } }) as Picture)
    .onGarment!;
  expect([31, 40, 60].map((x) => white[50 * W + x])).toEqual([0, 150, 150]);
});

/** A picture of one row of colours, each fading out downwards over the whole height. */
function fading(
  colours: readonly (readonly number[])[],
  height: number,
  alphaAt: (y: number) => number,
): Picture {
  const width = 12 * colours.length;
  const data = new Uint8Array(4 * width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) data.set([...colours[Math.floor(x / 12)], alphaAt(y)], o);
  return { kind: "picture", ...asItIs({ width, height }), colour: { width, height, data }, cleared: null };
}
const COLOURS = [
  [255, 255, 255],
  [220, 40, 30],
  [250, 210, 40],
  [40, 90, 170],
  [20, 120, 60],
  [30, 26, 28],
  [240, 160, 190],
];

test.each(["opaque", "seeThrough"])(
  "white under a fade of six millimetres has no step, with %s inks",
  (inks) => {
    const fade = fading(COLOURS, 60, (y) => Math.round(255 - (255 * y) / 59));
    const given = { garment: "#1b2a4a", inks, white: { chokeMm: 0.15, strength: 1 } };
    const { colour, onGarment } = runStage("transfer", fade, given) as Picture;
    const { width } = colour;
    for (let k = 0; k < COLOURS.length; k++)
      for (let y = 1; y < 60; y++) {
        const i = y * width + 12 * k + 6;
        // The art itself falls by 4.3 a row; its white by no more than four times that anywhere.
        expect(Math.abs(onGarment!.white[i] - onGarment!.white[i - width])).toBeLessThanOrEqual(17);
      }
  },
);

test.each([
  ["#1b2a4a", 5],
  ["#111111", 5],
  ["#8a1f2b", 5],
  ["#6d7072", 5],
])("see-through inks that fade on %s look as the art does on it, within %i of CIEDE2000", (garment, most) => {
  const fade = fading(COLOURS, 60, (y) => Math.round(255 - (255 * y) / 59));
  const { colour, onGarment } = runStage("transfer", fade, { garment }) as Picture;
  const cloth = lightOf(numberOf(garment));
  let [sum, count] = [0, 0];
  for (let i = 0; i < colour.width * colour.height; i++) {
    const cover = fade.colour.data[4 * i + 3] / 255;
    if (cover === 0 || cover === 1) continue;
    const ink = colour.data[4 * i + 3] / 255;
    const own = lightOf((colour.data[4 * i] << 16) | (colour.data[4 * i + 1] << 8) | colour.data[4 * i + 2]);
    // Worked out anew: white covers cloth, and ink takes its share out of what is below.
    const below = cloth.map((c) => c + (1 - c) * (onGarment!.white[i] / 255));
    const printed = own.map((c, n) => below[n] * (1 - ink) + below[n] * c * ink);
    const wanted = own.map((c, n) => cloth[n] * (1 - cover) + c * cover);
    sum += ciede2000(cielabOf(...(printed as Three)), cielabOf(...(wanted as Three)));
    count++;
  }
  expect(count).toBeGreaterThan(4000);
  expect(sum / count).toBeLessThan(most);
});
type Three = [number, number, number];

test("whole art at a hard edge is the same whatever its inks", () => {
  const hard = fading(COLOURS, 60, (y) => (y < 40 ? 255 : y === 40 ? 120 : 0));
  const [one, other] = ["opaque", "seeThrough"].map(
    (inks) => runStage("transfer", hard, { garment: "#1b2a4a", inks }) as Picture,
  );
  expect(one.colour.data).toEqual(other.colour.data);
  expect(one.onGarment!.white).toEqual(other.onGarment!.white);
  expect(one.colour.data).toEqual(hard.colour.data);
});

test("the soft ends of an edge get no white, on dark cloth and with dark art", () => {
  // An edge of a millimetre that runs out slowly, as a brush leaves it: as much of it is flat as a fade is.
  const art = fading(COLOURS, 60, (y) => Math.round(255 / (1 + Math.exp((y - 30) / 1.6))));
  const made = runStage("transfer", art, {
    garment: "#1a2340",
    white: { chokeMm: 0.3, strength: 1 },
  }) as Picture;
  const { white } = made.onGarment!;
  for (let i = 0; i < white.length; i++) if (art.colour.data[4 * i + 3] < 128) expect(white[i]).toBe(0);
  for (let i = 0; i < white.length; i++)
    expect(made.colour.data[4 * i + 3]).toBeGreaterThanOrEqual(art.colour.data[4 * i + 3]);
});
