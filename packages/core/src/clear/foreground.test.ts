import { runToEnd } from "../maths/work";
import { alphaAt, clearingFrom, pictureOf } from "../testing/clearings";
import { type Clearing } from "./clearing";
import { estimateForeground } from "./foreground";
import { pick } from "./pick";

/** Everything alike the top left pixel is taken, and the fringe unmixed. */
function picked(clearing: Clearing, tolerance: number): Clearing {
  const { mask } = runToEnd(pick(clearing.source, 0, 0, tolerance, true));
  mask.forEach((taken, i) => {
    if (!taken) return;
    clearing.taken[i] = 1;
    clearing.data[i * 4 + 3] = 0;
  });
  runToEnd(estimateForeground(clearing));
  return clearing;
}

test("a fringe over another background than white comes out as the art's own colour", () => {
  const [ground, art] = [
    [40, 120, 60],
    [220, 60, 40],
  ];
  const share = (x: number) => Math.min(1, Math.max(0, (x - 9.3) / 2));
  const picture = pictureOf(
    24,
    9,
    (x) => [0, 1, 2].map((k) => ground[k] * (1 - share(x)) + art[k] * share(x)) as [number, number, number],
  );
  const clearing = picked(clearingFrom(picture), 3);
  for (const x of [10, 11, 12]) {
    expect(Math.abs(alphaAt(clearing, x, 4) / 255 - share(x))).toBeLessThan(0.05);
    for (let k = 0; k < 3; k++)
      expect(Math.abs(clearing.data[(4 * 24 + x) * 4 + k] - art[k])).toBeLessThan(12);
  }
});

const SIDE = 240;
/** Cover of a disc of radius 60 whose edge runs out over `soft` pixels, as a smooth step. */
const discCover = (x: number, y: number, soft: number): number => {
  const t = Math.min(1, Math.max(0, (60 - Math.hypot(x + 0.5 - 120, y + 0.5 - 120)) / soft + 0.5));
  return t * t * (3 - 2 * t);
};
/** Two code values of grain, the same each time. */
const grain = (x: number, y: number, k: number): number => (((x * 7919 + y * 104729 + k * 31) >>> 2) % 5) - 2;

describe.each([
  ["dark on white", [255, 255, 255], [32, 48, 80]],
  ["red on a warm grey", [216, 200, 176], [192, 64, 32]],
  ["cream on a dark cloth", [32, 48, 64], [240, 224, 192]],
] as const)("a disc, %s", (_, ground, art) => {
  const discOf = (soft: number) =>
    pictureOf(SIDE, SIDE, (x, y) => {
      const a = discCover(x, y, soft);
      return [0, 1, 2].map((k) =>
        Math.min(255, Math.max(0, ground[k] * (1 - a) + art[k] * a + grain(x, y, k))),
      ) as [number, number, number];
    });
  test.each([1, 4, 12, 30, 50])("with an edge %d pixels wide gets its true cover and colour", (soft) => {
    const clearing = picked(clearingFrom(discOf(soft)), 6);
    let [off, wrong, rim, paler] = [0, 0, 0, 0];
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        const truth = discCover(x, y, soft);
        const error = Math.abs(alphaAt(clearing, x, y) / 255 - truth);
        off += error;
        if (error > 0.5) wrong++;
        if (truth < 0.1 || truth > 0.9) continue;
        rim++;
        const o = (y * SIDE + x) * 4;
        const apart = Math.max(...art.map((v, k) => Math.abs(clearing.data[o + k] - v)));
        if (apart > 45) paler++; // the old background is 124 and more away in one channel at least
      }
    expect(rim).toBeGreaterThan(200);
    expect((100 * off) / SIDE ** 2).toBeLessThan(0.6);
    expect(wrong / SIDE ** 2).toBeLessThan(0.0005);
    expect(paler / rim).toBeLessThan(0.02);
  });
  test("keeps its inside to the bit", () => {
    const picture = discOf(20);
    const clearing = picked(clearingFrom(picture), 6);
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        if (discCover(x, y, 20) < 1) continue;
        const o = (y * SIDE + x) * 4;
        expect(clearing.data.subarray(o, o + 4)).toEqual(picture.data.subarray(o, o + 4));
      }
  });
});

test("a shaded thing is no soft edge: what darkens slowly towards the ground stays", () => {
  // brass that is darkest at its rim, before a blue grey cloth
  const picture = pictureOf(SIDE, SIDE, (x, y) => {
    const r = Math.hypot(x + 0.5 - 120, y + 0.5 - 120);
    if (r > 90) return [38 + grain(x, y, 0), 41 + grain(x, y, 1), 52 + grain(x, y, 2)];
    const light = 0.35 + 0.65 * (1 - r / 90);
    return [205 * light + grain(x, y, 0), 160 * light + grain(x, y, 1), 70 * light + grain(x, y, 2)];
  });
  const clearing = picked(clearingFrom(picture), 6);
  let lost = 0;
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++)
      if (Math.hypot(x + 0.5 - 120, y + 0.5 - 120) < 86 && alphaAt(clearing, x, y) < 255) lost++;
  expect(lost).toBeLessThan(60); // of 23,000
});

test("a soft shadow on the paper becomes a shadow on any backing; a pale rim is nowhere", () => {
  const [paper, navy, backing] = [
    [243, 239, 230],
    [31, 58, 95],
    [210, 60, 140],
  ];
  const disc = (x: number, y: number) =>
    Math.min(1, Math.max(0, 70.5 - Math.hypot(x + 0.5 - 115, y + 0.5 - 115)));
  const shadow = (x: number, y: number) => {
    const t = Math.min(1, Math.max(0, (70 - Math.hypot(x + 0.5 - 122, y + 0.5 - 122)) / 24 + 0.5));
    return 0.5 * t * t * (3 - 2 * t);
  };
  const laidOn = (ground: readonly number[], x: number, y: number) =>
    ground.map((v, k) => v * (1 - shadow(x, y)) * (1 - disc(x, y)) + navy[k] * disc(x, y));
  const picture = pictureOf(SIDE, SIDE, (x, y) => {
    const c = laidOn(paper, x, y).map((v, k) => Math.min(255, Math.max(0, v + grain(x, y, k))));
    return c as [number, number, number];
  });
  const { data } = picked(clearingFrom(picture), 7);
  let [sum, pale, count] = [0, 0, 0];
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const o = (y * SIDE + x) * 4;
      const alpha = data[o + 3] / 255;
      const truth = laidOn(backing, x, y);
      const is = backing.map((v, k) => v * (1 - alpha) + data[o + k] * alpha);
      // Green is what paper has and neither the backing nor the art: a pale rim would show in it.
      if (is[1] > truth[1] + 40) pale++;
      if (truth.every((v, k) => Math.abs(v - backing[k]) < 1)) continue;
      sum += Math.abs(is[1] - truth[1]);
      count++;
    }
  expect(count).toBeGreaterThan(16000);
  expect(sum / count).toBeLessThan(5);
  expect(pale).toBeLessThan(10);
});

test.each([
  ["all but level", (x: number, y: number) => y - 30 + x * 0.03],
  ["all but upright", (x: number, y: number) => x - 30 + y * 0.03],
])("an edge that is %s leaves hardly a bead of the ground", (_what, below) => {
  const [ground, art] = [
    [58, 92, 150],
    [254, 250, 237],
  ];
  const cover = (x: number, y: number) => Math.min(1, Math.max(0, 0.5 - below(x + 0.5, y + 0.5)));
  // the ground is at the top left for the pick: the art lies on the far side
  const picture = pictureOf(60, 60, (x, y) => {
    const a = 1 - cover(x, y);
    return [0, 1, 2].map((k) => ground[k] * (1 - a) + art[k] * a) as [number, number, number];
  });
  const clearing = picked(clearingFrom(picture), 6);
  let [off, pale] = [0, 0];
  for (let y = 2; y < 58; y++)
    for (let x = 2; x < 58; x++) {
      const o = (y * 60 + x) * 4;
      const alpha = clearing.data[o + 3];
      off += Math.abs(alpha / 255 - (1 - cover(x, y)));
      if (alpha >= 26 && clearing.data[o] < 200) pale++;
    }
  expect(off / 3136).toBeLessThan(0.002);
  expect(pale).toBeLessThanOrEqual(2);
});

test("a line of a pixel and a half takes its colour from where it stands out most", () => {
  const line = (y: number, x: number) =>
    x < 6 || x > 53 ? 0 : Math.min(1, Math.max(0, 1.25 - Math.abs(y + 0.5 - 20 - x * 0.11)));
  const picture = pictureOf(60, 60, (x, y) => {
    const a = line(y, x);
    return [255 - 225 * a, 255 - 215 * a, 255 - 195 * a];
  });
  const clearing = picked(clearingFrom(picture), 6);
  let [off, pale, count] = [0, 0, 0];
  for (let y = 10; y < 40; y++)
    for (let x = 4; x < 56; x++) {
      const o = (y * 60 + x) * 4;
      off += Math.abs(clearing.data[o + 3] / 255 - line(y, x));
      if (clearing.data[o + 3] < 26) continue;
      count++;
      if (clearing.data[o] > 30 + 0.3 * 225) pale++;
    }
  expect(off / count).toBeLessThan(0.05);
  expect(pale / count).toBeLessThan(0.05);
});
