import { runToEnd } from "../maths/work";
import { type Gray } from "../raster/types";
import { refuseDust } from "./dust";
import { outlinesOf } from "./outlines";
import { largeEnough } from "./shapes";

const SIDE = 1200;
const picture = (isDark: (x: number, y: number) => boolean): Gray => {
  const data = new Uint8Array(SIDE * SIDE);
  for (let i = 0; i < data.length; i++) data[i] = isDark(i % SIDE, Math.floor(i / SIDE)) ? 0 : 255;
  return { width: SIDE, height: SIDE, data };
};
/** Outlines that stay from an area on, in square pixels, and what is said of them at ten pixels a millimetre. */
function looked(gray: Gray, smallest: number): { readonly kept: number; readonly said: string } {
  const outlines = runToEnd(outlinesOf(gray, 128));
  const kept = runToEnd(largeEnough(outlines, smallest, smallest));
  let said = "";
  try {
    refuseDust(outlines, kept, smallest / 100, 10);
  } catch (error) {
    said = (error as Error).message;
  }
  return { kept: kept.kept.length, said };
}

test("of dust, the smallest area is said from which on few enough shapes stay", () => {
  // A point in every third pixel both ways, 160,000 of them, and every fourth of those twice as large.
  const dust = picture((x, y) => y % 3 === 0 && (x % 3 === 0 || (x % 12 === 1 && y < 900)));
  const { kept, said } = looked(dust, 0);
  expect(kept).toBe(160_000);
  expect(said).toMatch(
    /^trace: smallestMm2 is 0; allowed: at most 120000 outlines .* here are 160000 of \d+: /,
  );
  const enough = Number(/set the smallest shape and hole to (0\.\d+) mm² or more$/.exec(said)![1]);
  expect(looked(dust, enough * 100)).toEqual({ kept: 30_000, said: "" });
});

test("of a chequerboard no size can be left out: fewer dots are to be set", () => {
  const { said } = looked(
    picture((x, y) => (x + y) % 2 === 0),
    0,
  );
  expect(said).toMatch(/set fewer dots per inch at Size$/);
});

test("noise all over, that hangs together, is told from a drawing of as many points whose lines run on", () => {
  let seed = 7;
  const random = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  expect(
    looked(
      picture(() => random() < 0.5),
      1,
    ).said,
  ).toMatch(/at most 120000 outlines of 1200000 points/);
  // Slanting lines two pixels apart: as many points, and none turns.
  const hatched = looked(
    picture((x, y) => (x + y) % 4 < 2),
    10,
  );
  expect(hatched.said).toBe("");
});
