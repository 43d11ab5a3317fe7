import { type Check } from "../../inspect/check";
import { type Rgba } from "../../raster/types";
import { asItIs } from "../../result/finish";
import { type Picture } from "../../result/result";
import { viewOf } from "../../result/view";
import { runToEnd } from "../../maths/work";
import { USUAL_LIMITS } from "../../inspect/limits";
import { deliveredBy, inspectStage, runStage } from "../../testing/running";

const [W, H] = [120, 100];

/** A wash: a disc that fades out over 2 mm, on nothing. */
function wash(): Picture {
  const data = new Uint8Array(4 * W * H);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 4) {
      const share = Math.min(1, Math.max(0, (40 - Math.hypot(x - 60, y - 50)) / 20));
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
  // Whole art ends twenty dots from the middle; beyond, where it fades out, white would show through it.
  expect(row(60 + 14)).toBe(153);
  expect(row(60 + 17)).toBe(0);
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

test("a wash that is nowhere whole has its white from a millimetre in", () => {
  const data = new Uint8Array(4 * W * H);
  for (let y = 20; y < 80; y++) for (let x = 30; x < 90; x++) data.set([40, 90, 170, 150], 4 * (y * W + x));
  const picture: Picture = { ...art, colour: { width: W, height: H, data } };
  const { white } = (runStage("transfer", picture, { white: { chokeMm: 0.2, strength: 1 } }) as Picture)
    .onGarment!;
  expect([white[50 * W + 35], white[50 * W + 60]]).toEqual([0, 150]);
});
