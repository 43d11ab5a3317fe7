import fc from "fast-check";
import { finish } from "../maths/work";
import { newBits } from "../raster/types";
import { GcodeReader, movesOfGcode, ProgramError } from "./gcode";
import { HpglReader, movesOfHpgl } from "./hpgl";
import { stretchesOf } from "./rows";

const bytes = (text: string) => new TextEncoder().encode(text);
const laser = { travelMmPerS: 400 };
const cutter = { travelMmPerS: 600, cutMmPerS: 200, liftMs: 50 };

describe("G-code, line by line", () => {
  const all = (text: string) => finish(movesOfGcode(bytes(text), new GcodeReader(laser)));

  test("what stands goes on standing: place, way, speed, power", () => {
    const { count, x, y, power, speed, line } = all(
      "G21\nG90\nM3S500\nG0X10Y5\nG1F6000X20\nY9\nS0X30\nG0X0\n",
    );
    expect(count).toBe(5);
    expect([...x]).toEqual([0, 10, 20, 20, 30, 0]);
    expect([...y]).toEqual([0, 5, 5, 9, 9, 9]);
    expect([...power]).toEqual([0, 0.5, 0.5, 0, 0]);
    expect([...speed]).toEqual([400, 100, 100, 100, 400]);
    expect([...line]).toEqual([4, 5, 6, 7, 8]);
  });

  test("the beam is off at travel speed, and when it was switched off", () => {
    expect([...all("M3S1000\nG0X1\nG1F600X2\nM5\nX3\n").power]).toEqual([0, 1, 0]);
  });

  test("numbers of lines, blanks and comments say nothing; a comment may name a pass", () => {
    const { passes, pass, count } = all("N1 (Piece)\nN2 (pass engrave)\nN3 G0 X1\nN4(pass cut)\nN5G0X2\n");
    expect([passes, [...pass], count]).toEqual([["engrave", "cut"], [0, 1], 2]);
  });

  test("a pause stands still, and M2 is the end", () => {
    const { count, pause } = all("G4P0.5\nG0X1\nM2\nG0X9\n");
    expect([count, [...pause]]).toEqual([2, [0.5, 0]]);
  });

  test.each([
    ["G2X1", "G2 is not known here"],
    ["M30", "M30 is not known here"],
    ["Q7", "Q is not known here"],
    ["G1X", "a word without a number"],
    ["(open", "a comment that does not end"],
    ["G1X5", "a move without a speed"],
  ])("%s is refused with its line and why", (text, why) => {
    expect(() => all(`G21\n${text}\n`)).toThrow(new ProgramError(2, text, why));
  });

  test("what stands, said again to a machine that has forgotten it, goes on alike", () => {
    const program = ["G21", "G90", "M4S0", "G0X10Y10", "G1F1500S700X40", "Y30", "X10", "S0X0", "G0X0Y0"];
    const whole = finish(movesOfGcode(bytes(program.join("\n")), new GcodeReader(laser)));
    for (let cut = 1; cut < program.length; cut++) {
      const before = new GcodeReader(laser);
      program.slice(0, cut).forEach((text, k) => before.read(text, k + 1));
      const after = new GcodeReader(laser, before.place);
      const rest = [...before.standing, ...program.slice(cut)].flatMap(
        (text, k) => after.read(text, k + 1).move ?? [],
      );
      const from = whole.count - rest.length;
      expect(rest.map((m) => [m.x, m.y, Math.fround(m.power), m.speed])).toEqual(
        rest.map((_, k) => [
          whole.x[from + k + 1],
          whole.y[from + k + 1],
          whole.power[from + k],
          whole.speed[from + k],
        ]),
      );
    }
  });

  test("a row that was broken off takes its run-up again; a line does not", () => {
    const reader = new GcodeReader(laser);
    ["G21", "G90", "M3S0", "G1F18000", "G0X50Y20", "G1X60S600"].forEach((text, k) =>
      reader.read(text, k + 1),
    );
    // 300 mm/s at 6000 mm/s²: 7.5 mm and a tenth more
    expect(reader.runUpTo("N7G1X61S0", { accelMmPerS2: 6000 })).toEqual(["G0X51.75S0", "G1X60S0"]);
    expect(reader.runUpTo("N7G1X59S0", { accelMmPerS2: 6000 })).toEqual(["G0X68.25S0", "G1X60S0"]);
    expect(reader.runUpTo("N7G0X10Y21", { accelMmPerS2: 6000 })).toEqual([]);
    reader.read("M4", 7);
    expect(reader.runUpTo("X70", { accelMmPerS2: 6000 })).toEqual([]);
  });
});

describe("HP-GL, line by line", () => {
  const all = (text: string) => finish(movesOfHpgl(bytes(text), cutter));

  test("plotter units are a fortieth of a millimetre; IP and SC make others", () => {
    expect([...all("IN;PU400,800;").x]).toEqual([0, 10]);
    const { x, y } = all("IN;IP0,0,40,40;SC0,1000,0,1000;PU10000,20500;");
    expect([x[1], y[1]]).toEqual([10, 20.5]);
  });

  test("the knife goes down once, through every place, and up once: each takes its time", () => {
    const { count, power, pause, speed } = all("IN;VS5;PU40,0;PD80,0,80,80;PU;");
    expect(count).toBe(5);
    expect([...power]).toEqual([0, 0, 1, 1, 0]);
    expect(Array.from(pause, (p) => Math.round(p * 1000))).toEqual([0, 50, 0, 0, 50]);
    expect([speed[0], speed[2]]).toEqual([600, 50]);
  });

  test("answers that are asked for are counted, and a comment may name a pass", () => {
    const reader = new HpglReader(cutter);
    expect(reader.read('CO"pass kiss";SP1;OA;', 1)).toMatchObject({ asks: 1, pass: "kiss", moves: [] });
    expect(reader.read("PU0,0;OA;OA;", 2).asks).toBe(2);
  });

  test.each([
    ["AA0,0,90;", "AA is not known here"],
    ["PU1,2,3;", "a place of one number"],
    ["PDx,1;", "PD with what is no number"],
    ["VS0;", "VS without a speed"],
  ])("%s is refused with its line and why", (text, why) => {
    expect(() => all(`IN;\n${text}\n`)).toThrow(why);
  });
});

test("stretches of marks are what a look at every dot finds", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 70 }),
      fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 9, maxLength: 9 }),
      (width, row) => {
        const bits = newBits(width, 1);
        row.slice(0, bits.stride).forEach((b, k) => (bits.data[k] = b % 5 === 0 ? 0 : b % 5 === 1 ? 255 : b));
        if (width & 7) bits.data[bits.stride - 1] &= 0xff << (8 - (width & 7));
        const marked = new Set<number>();
        for (const { from, to } of stretchesOf(bits, 0)) {
          expect(to).toBeGreaterThan(from);
          for (let x = from; x < to; x++) marked.add(x);
          expect(marked.has(from - 1) && from > 0).toBe(false);
        }
        for (let x = 0; x < width; x++)
          expect(marked.has(x)).toBe(((bits.data[x >> 3] >> (7 - (x & 7))) & 1) === 1);
      },
    ),
  );
});
