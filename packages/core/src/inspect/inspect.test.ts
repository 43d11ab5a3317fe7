import { USUAL_LIMITS } from "./limits";
import { seeded } from "../testing/pictures";
import { runToEnd } from "../maths/work";
import { newBits, type Bits } from "../raster/types";
import { type Finish } from "../result/finish";
import { checkEvenAreas } from "./evenAreas";
import { figure } from "./check";
import { type Dots } from "./dots";
import { checkMarkedShare, markedShare } from "./markedShare";
import { checkResolution } from "./resolution";
import { checkSingleDots } from "./singleDots";
import { firstOf } from "./check";

const checkShareOf = (dots: Dots) => checkMarkedShare(runToEnd(markedShare(dots)), dots.cover !== null);

const LIMITS = USUAL_LIMITS;
const finishAt = (px: number, dotsPerInch: number): Finish => ({
  widthPx: px,
  heightPx: px,
  dotsPerInch,
  widthMm: (px / dotsPerInch) * 25.4,
  heightMm: (px / dotsPerInch) * 25.4,
});

function bitsOf(size: number, at: (x: number, y: number) => boolean): Bits {
  const bits = newBits(size, size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) if (at(x, y)) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  return bits;
}

const checker = (x: number, y: number) => ((x + y) & 1) === 0;

describe("areas without a dot, and solid ones", () => {
  // 10 dots a millimetre; a 30 x 25 dot window is 7.5 mm2
  const window = bitsOf(100, (x, y) => (x >= 20 && x < 50 && y >= 40 && y < 65 ? false : checker(x, y)));

  test("a bare window is found with its size and its place", () => {
    const check = runToEnd(checkEvenAreas("bare", { bits: window, cover: null }, finishAt(100, 254), LIMITS));
    expect(check).toMatchObject({ id: "bareAreas", level: "look", value: 1, text: "1 area holds no dots" });
    const [{ xMm, yMm, widthMm, heightMm }] = check.places;
    expect([xMm, yMm, widthMm, heightMm].map((v) => Math.round(v * 10) / 10)).toEqual([2, 4, 3, 2.5]);
    expect(check.detail).toContain("7.5 mm²");
  });

  test("a window under the limit is not, and the limit can be set", () => {
    const dots = { bits: window, cover: null };
    expect(runToEnd(checkEvenAreas("bare", dots, finishAt(100, 254), { ...LIMITS, areaMm2: 8 })).level).toBe(
      "fine",
    );
    expect(
      runToEnd(checkEvenAreas("bare", dots, finishAt(100, 254), { ...LIMITS, areaMm2: 7.5 })).value,
    ).toBe(1);
  });

  test("line work is bare and solid by intent: told, not held against it", () => {
    const check = runToEnd(
      checkEvenAreas("bare", { bits: window, cover: null }, finishAt(100, 254), LIMITS, true),
    );
    expect(check).toMatchObject({ level: "fine", value: 1, detail: "7.5 mm². As line work has them." });
    expect(check.places).toHaveLength(1);
  });

  test("the surround of the art does not count", () => {
    const cover = Uint8Array.from({ length: 10000 }, (_, i) => (i % 100 < 50 && i % 100 >= 20 ? 0 : 255));
    expect(runToEnd(checkEvenAreas("bare", { bits: window, cover }, finishAt(100, 254), LIMITS)).level).toBe(
      "fine",
    );
  });

  test("solid areas are the same of the negative; largest first", () => {
    const solid = bitsOf(100, (x, y) => (y >= 70 && x < 60) || (y < 30 && x < 30) || checker(x, y));
    const check = runToEnd(checkEvenAreas("solid", { bits: solid, cover: null }, finishAt(100, 254), LIMITS));
    expect(check).toMatchObject({ value: 2, text: "2 areas are solid" });
    expect(check.detail).toMatch(/^18 and 9 mm²/);
  });

  test("dots of an ordinary screen leave no area, however light", () => {
    const sparse = bitsOf(100, (x, y) => x % 8 === 0 && y % 8 === 0);
    expect(
      runToEnd(checkEvenAreas("bare", { bits: sparse, cover: null }, finishAt(100, 254), LIMITS)).level,
    ).toBe("fine");
  });
});

describe("single dots", () => {
  const dots = bitsOf(
    20,
    (x, y) =>
      (x === 0 && y === 0) ||
      (x === 5 && y === 5) ||
      (x >= 10 && x <= 11 && y === 10) ||
      (x === 19 && y === 19) ||
      (x === 14 && y === 14) ||
      (x === 15 && y === 15),
  );

  test("are counted, corners too; pairs, touching at a corner or not, are none", () => {
    const check = runToEnd(checkSingleDots({ bits: dots, cover: null }, finishAt(20, 508), LIMITS));
    expect(check).toMatchObject({ value: 3, level: "look", text: "3 single dots" });
    expect(check.places).toHaveLength(3);
    expect(check.places[1]).toEqual({ xMm: 0.25, yMm: 0.25, widthMm: 0.05, heightMm: 0.05 });
  });

  test("are fine where one dot is as large as the process needs", () => {
    expect(runToEnd(checkSingleDots({ bits: dots, cover: null }, finishAt(20, 254), LIMITS)).level).toBe(
      "fine",
    );
  });
});

test("marked share is of the art, and all or nothing is a stop", () => {
  const half = bitsOf(10, (x) => x < 5);
  const cover = Uint8Array.from({ length: 100 }, (_, i) => (i % 10 < 8 ? 200 : 0));
  expect(checkShareOf({ bits: half, cover: null }).value).toBe(50);
  expect(checkShareOf({ bits: half, cover })).toMatchObject({
    value: 62.5,
    level: "fine",
    text: "62.5 % is marked",
  });
  expect(checkShareOf({ bits: bitsOf(10, () => true), cover: cover.map(() => 255) }).level).toBe("fine");
  expect(checkShareOf({ bits: newBits(4, 4), cover: null }).level).toBe("stop");
  expect(checkShareOf({ bits: bitsOf(4, () => true), cover: null }).level).toBe("stop");
});

test("resolution: one pixel a dot is fine, half is a look, less a stop; shapes are always fine", () => {
  const facts = (width: number, vector = false) => ({ sha256: "", width, height: width, vector });
  const finishSize = finishAt(900, 254); // 90 mm
  expect([900, 600, 449].map((w) => checkResolution(facts(w), finishSize).level)).toEqual([
    "fine",
    "look",
    "stop",
  ]);
  expect(checkResolution(facts(600), finishSize)).toMatchObject({ value: 169.3, unit: "px/in" });
  expect(checkResolution(facts(600), finishSize).detail).toBe(
    "169 per inch for 254 needed. Enough for 60 mm wide.",
  );
  expect(checkResolution(facts(10, true), finishSize).level).toBe("fine");
});

test("figures drop trailing zeros", () => {
  expect([figure(2.0), figure(2.04), figure(0.125, 3), figure(12.96)]).toEqual(["2", "2", "0.125", "13"]);
});

test("the first of a long list are those that ordering all of it would put first, equals as they came", () => {
  const next = seeded(4);
  const list = Array.from({ length: 500 }, (_, i) => ({ size: next() % 40, i }));
  const bySize = (a: { size: number }, b: { size: number }) => b.size - a.size;
  const ordered = [...list].sort(bySize);
  for (const count of [1, 7, 50, 600]) expect(firstOf(list, count, bySize)).toEqual(ordered.slice(0, count));
});
