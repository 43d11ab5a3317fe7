import { runToEnd } from "../maths/work";
import { keptHalves, halvesKept } from "../raster/keptHalves";
import { as } from "../result/result";
import { asRgba, grayOf } from "../testing/pictures";
import { draftOf } from "./draft";
import { firstLookTimes, readFirstLook } from "./firstLook";
import { planOf, stepAt } from "./plan";
import { readRoute } from "./route";
import { Runner } from "./runner";
import { type ArtworkSource } from "./source";

const [WIDTH, HEIGHT] = [1503, 1101];
const whole = asRgba(
  grayOf(WIDTH, HEIGHT, (x, y) => 128 + 70 * Math.sin(x / 37) * Math.cos(y / 29) + ((x * 7 + y * 13) % 9)),
);
const halves = runToEnd(keptHalves(whole));
const read: number[] = [];
const source: ArtworkSource = {
  facts: { sha256: "s", width: WIDTH, height: HEIGHT, vector: false },
  pixels: async () => whole,
  halved: async (times) => {
    read.push(times);
    return halves[times - 1];
  },
};
const routeOf = (size: object) =>
  readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [
      { stage: "size", widthMm: 80, dotsPerInch: 254, ...size },
      {
        stage: "tone",
        curve: [
          [0, 0],
          [0.5, 0.6],
          [1, 1],
        ],
      },
      { stage: "blackWhite" },
    ],
  });
const LESS = { kind: "halves", times: 1 } as const;
const dataOf = (result: NonNullable<ReturnType<Runner["kept"]>>) => ({
  ...result,
  ...(result.kind === "plates" ? { plates: result.plates.map(({ bits }) => bits.data) } : {}),
});

test.each([[{}], [{ turn: 90 }], [{ turn: 180, mirror: true }]])(
  "a draft of the kept half is the draft of the whole, turned as %j",
  async (size) => {
    const even = { ...source.facts, width: 1500, height: 1100 };
    const cut = (picture: typeof whole, times: number) => {
      const [w, h] = [1500 >> times, 1100 >> times];
      const data = new Uint8Array(4 * w * h);
      for (let y = 0; y < h; y++)
        data.set(picture.data.subarray(4 * y * picture.width, 4 * (y * picture.width + w)), 4 * y * w);
      return { width: w, height: h, data };
    };
    const pixels = cut(whole, 0);
    const [half] = runToEnd(keptHalves(pixels));
    const own: ArtworkSource = { facts: even, pixels: async () => pixels, halved: async () => half };
    const plan = planOf(routeOf(size), even);
    const step = stepAt(plan, "blackWhite")!;
    const [small, large] = [new Runner(), new Runner()];
    await readFirstLook(small, plan, own, 1e6);
    await large.result(plan, own, plan.steps[0]);
    const [a, b] = [small, large].map((runner) => runToEnd(draftOf(runner, plan, step, LESS))!);
    expect(dataOf(a)).toEqual(dataOf(b));
  },
);

test("the largest half that is small enough is read, once, and not when the whole is at hand", async () => {
  expect(halvesKept(WIDTH, HEIGHT)).toBe(1);
  const plan = planOf(routeOf({}), source.facts);
  const runner = new Runner();
  read.length = 0;
  await readFirstLook(runner, plan, source, 1e6);
  await readFirstLook(runner, plan, source, 1e6);
  expect(read).toEqual([1]);
  await runner.result(plan, source, plan.steps[0]);
  expect(runner.halved(plan.steps[0])).toBeUndefined();
  await readFirstLook(runner, plan, source, 1e6);
  expect(read).toEqual([1]);
  expect(as(runner.kept(plan.steps[0])!, "picture").colour).toBe(whole);
});

test.each([
  [800, 600, 0],
  [1200, 800, 1],
  [3840, 2627, 2],
  [16400, 12192, 4],
  [200_000, 4, 0],
  [200_000, 40, 2],
])("%i x %i is read halved %i times", (width, height, times) => {
  expect(firstLookTimes({ sha256: "", width, height, vector: false }, 1.2e6)).toBe(times);
  expect(firstLookTimes({ sha256: "", width, height, vector: true }, 1.2e6)).toBe(0);
});
