import fc from "fast-check";
import { runToEnd } from "../maths/work";
import * as clip from "./clip";
import * as inSlices from "./inSlices";
import * as atOnce from "./offset";
import { type Ring } from "./rings";

/** Rings of any kind: crossing themselves and each other, run either way, with corners on the same lines. */
const anyRings = fc.array(
  fc
    .array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 })), {
      minLength: 3,
      maxLength: 40,
    })
    .map((corners): Ring => Float64Array.from(corners.flat().map((v) => v / 2.5))),
  { minLength: 1, maxLength: 6 },
);

/** A wavy ring of so many corners. */
function wavy(corners: number, middle: number): Ring {
  const ring = new Float64Array(2 * corners);
  for (let k = 0; k < corners; k++) {
    const turn = (2 * Math.PI * k) / corners;
    const radius = 20 + Math.sin(turn * 97) + 0.2 * Math.sin(turn * 1009);
    ring.set([middle + radius * Math.cos(turn), 30 + radius * Math.sin(turn)], 2 * k);
  }
  return ring;
}

describe("work with pauses gives what the library gives in one call, to the bit", () => {
  test.each(["joined", "without", "common"] as const)("two areas: %s", (how) => {
    fc.assert(
      fc.property(anyRings, anyRings, (a, b) => {
        expect(runToEnd(inSlices[how](a, b))).toEqual(clip[how](a, b));
      }),
      { numRuns: 60 },
    );
  });
  test("an even-odd fill", () => {
    fc.assert(
      fc.property(anyRings, (rings) => {
        expect(runToEnd(inSlices.evenOdd(rings))).toEqual(clip.evenOdd(rings));
      }),
      { numRuns: 60 },
    );
  });
  test.each(["round", "mitre", "bevel"] as const)("moved, %s", (join) => {
    fc.assert(
      fc.property(anyRings, fc.double({ min: -3, max: 3, noNaN: true }), (rings, byMm) => {
        const areas = clip.evenOdd(rings);
        expect(runToEnd(inSlices.offset(areas, byMm, join))).toEqual(atOnce.offset(areas, byMm, join));
        // Holes alone run the other way round.
        const holes = areas.map((ring) => ring.slice());
        for (const ring of holes) for (let k = 0; k < ring.length; k += 2) ring[k] = 30 - ring[k];
        expect(runToEnd(inSlices.offset(holes, byMm, join))).toEqual(atOnce.offset(holes, byMm, join));
      }),
      { numRuns: 60 },
    );
  });
  test("opened and closed", () => {
    fc.assert(
      fc.property(anyRings, fc.double({ min: 0.01, max: 2, noNaN: true }), (rings, radius) => {
        const areas = clip.evenOdd(rings);
        expect(runToEnd(inSlices.opened(areas, radius))).toEqual(atOnce.opened(areas, radius));
        expect(runToEnd(inSlices.closed(areas, radius))).toEqual(atOnce.closed(areas, radius));
      }),
      { numRuns: 30 },
    );
  });
  test("outlines of many corners, with many pauses on the way and the share done always rising", () => {
    const [a, b] = [[wavy(6000, 30)], [wavy(5000, 44)]];
    for (const [work, wanted] of [
      [inSlices.joined(a, b), clip.joined(a, b)],
      [inSlices.offset(a, 0.7), atOnce.offset(a, 0.7)],
    ] as const) {
      const shares: number[] = [];
      for (;;) {
        const step = work.next();
        if (step.done) {
          expect(step.value).toEqual(wanted);
          break;
        }
        shares.push(step.value);
      }
      expect(shares.length).toBeGreaterThan(100);
      expect(shares).toEqual([...shares].sort((p, q) => p - q));
      expect(Math.max(...shares)).toBeLessThanOrEqual(1);
    }
  });
  test("simpler rings", () => {
    fc.assert(
      fc.property(anyRings, fc.double({ min: 0.01, max: 4, noNaN: true }), (rings, withinMm) => {
        expect(runToEnd(inSlices.simplified(rings, withinMm))).toEqual(clip.simplified(rings, withinMm));
      }),
      { numRuns: 30 },
    );
  });
  test("nothing is nothing", () => {
    for (const work of [inSlices.joined([], []), inSlices.offset([], 2), inSlices.evenOdd([])])
      expect(runToEnd(work)).toEqual([]);
  });
});
