import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { rectangleKnots } from "../path/outline";
import { pathSetOf } from "../path/pathSet";
import { newBits } from "../raster/types";
import { checkMarks, checkProgram } from "./checkProgram";
import { CodeFilter, ENQUIRY, escaped, PAUSE, STOP } from "./codes";
import { GcodeReader, movesOfGcode, ProgramError } from "./gcode";
import { HpglReader, movesOfHpgl } from "./hpgl";
import { type Job } from "./job";
import { type BedLaser } from "./kinds/bedLaser/profile";
import { USUAL_MACHINES } from "./machine";
import { planRun } from "./plan";
import { ProgramLines } from "./programLines";
import { resumeAt } from "./resume";
import { runWish } from "./wish";
import { stretchesOf } from "./rows";

const bytes = (text: string) => new TextEncoder().encode(text);
const laser = { travelMmPerS: 400 };
const cutter = { travelMmPerS: 600, cutMmPerS: 200, liftMs: 50 };

describe("G-code, line by line", () => {
  const all = (text: string) => runToEnd(movesOfGcode(bytes(text), new GcodeReader(laser)));

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

  test("broken off anywhere and told to a machine that has forgotten it: it marks what was left, and nothing else", () => {
    const text = ["G21", "G90", "M3S0", "G1F18000", "G0X5Y10S0", "G1X10S0", "G1X20S600", "G1X25S0"];
    text.push(
      "G1X30S600",
      "G1X38S0",
      "M4S0",
      "G0X10Y30S0",
      "G1F1500S700",
      "X40",
      "Y50",
      "S0",
      "M5S0",
      "G0X0Y0S0",
    );
    const lines = runToEnd(ProgramLines.of(bytes(`${text.join("\n")}\n`)));
    const machine = USUAL_MACHINES[0] as BedLaser;
    const marksOf = (of: readonly string[], from: readonly [number, number]) => {
      const reader = new GcodeReader({ travelMmPerS: 400, beamInTravel: true }, from);
      const marks: string[] = [];
      let [x, y] = from;
      for (const [k, one] of of.entries()) {
        const { move } = reader.read(one, k + 1);
        if (!move) continue;
        if (move.power > 0) marks.push(`${x},${y} ${move.x},${move.y} ${move.power} ${move.speed}`);
        [x, y] = [move.x, move.y];
      }
      return marks;
    };
    const whole = marksOf(text, [0, 0]);
    expect(whole).toEqual([
      ...["10,10 20,10 0.6 300", "25,10 30,10 0.6 300"],
      ...["10,30 40,30 0.7 25", "40,30 40,50 0.7 25"],
    ]);
    let [x, y] = [0, 0];
    const reader = new GcodeReader(machine);
    for (let line = 0; line < text.length; line++) {
      const { move } = reader.read(text[line], line + 1);
      // In the middle of the line: half of it is marked.
      const at = move ? { x: (x + move.x) / 2, y: (y + move.y) / 2 } : { x, y };
      const { say } = runToEnd(resumeAt(lines, { line, ...at, left: move ? 1 : 0 }, machine));
      const rest = marksOf([...say, ...text.slice(line)], [at.x, at.y]);
      const left = marksOf(text, [0, 0]).slice(whole.length - rest.length);
      if (move && move.power > 0) {
        const [, end, power, speed] = left[0].split(" ");
        expect(rest[0]).toBe(`${at.x},${at.y} ${end} ${power} ${speed}`);
        expect(rest.slice(1)).toEqual(left.slice(1));
      } else expect(rest).toEqual(left);
      const marked = whole.length - rest.length;
      const before = marksOf(text.slice(0, line), [0, 0]).length;
      expect(marked).toBe(before);
      if (move) [x, y] = [move.x, move.y];
    }
  });

  test("a row is gone on with by its whole run-up, dark, at its own speed", () => {
    const reader = new GcodeReader(laser);
    for (const [k, text] of [
      "G21",
      "G90",
      "M3S0",
      "G1F18000",
      "G0X42Y20S0",
      "G1X50S0",
      "G1X60S600",
    ].entries())
      reader.read(text, k + 1);
    expect(reader.goOnAt(63, 20, "N8G1X70S0")).toEqual([
      ...["G21G90", "M5S0", "G0X42Y20S0", "M3S0", "G1F18000", "G1X63Y20S0"],
    ]);
    // What follows by a travel needs no run-up.
    expect(reader.goOnAt(60, 20, "N8G0X10Y21S0")).toEqual(["G21G90", "M5S0", "M3S0", "G1F18000"]);
  });
});

describe("programs are looked through before they are sent", () => {
  const machine = USUAL_MACHINES[0] as BedLaser;
  const good = [
    "(P)",
    "G21",
    "G90",
    "M5S0",
    "(pass a)",
    "M3S0",
    "G1F6000",
    "G0X20Y20S0",
    "G1X30S0",
    "G1X40S500",
  ];
  good.push("G1X50S0", "(pass b)", "M4S0", "G0X60Y60S0", "G1F900S700", "X80", "S0", "M5S0", "G0X0Y0S0", "M2");
  const passes = [
    { name: "a", use: "bitmap", lines: [5, 11] as const },
    { name: "b", use: "through", lines: [12, 17] as const },
  ];
  const check = (lines: readonly string[], of = passes) =>
    runToEnd(checkProgram(bytes(`${lines.join("\n")}\n`), "text/x-gcode", machine, of));
  const changed = (line: number, text: string) => good.map((t, k) => (k + 1 === line ? text : t));

  test("a program as it is made is fine", () => expect(check(good).count).toBe(20));

  test.each([
    [11, "G0X50", "travels with the beam on"],
    [14, "G0X60Y60S5", "line 14.*travels with the beam on"],
    [8, "G0X20Y20S500", "line 8.*travels with the beam on"],
    [10, "G1X40Y21S500", "does not run across"],
    [10, "G1X900S500", "900, 20 mm is outside"],
    [10, "G1X1S500", "1, 20 mm is outside"],
    [8, "G0X-4Y20S0", "outside of what"],
    [7, "G1F6000S500", "on while the head stands still"],
    [9, "G1X30S500G4P2", "stands still"],
    [16, "X80Y399", "outside of what"],
    [19, "G1X10Y10F900S400M3", "outside of every pass"],
    [20, "G0X0Y0S0", "does not end"],
  ])("line %s as %s: refused", (line, text, why) => {
    expect(() => check(changed(line, text))).toThrow(new RegExp(why));
  });

  test("what comes after the end is refused, and so is another machine's program", () => {
    expect(() => check([...good, "G0X5Y5S0"])).toThrow(/line 21.*after the end/);
    expect(() => runToEnd(checkProgram(bytes("IN;\n"), "application/vnd.hp-hpgl", machine, []))).toThrow(
      /not for/,
    );
  });

  test("whatever line of a real program is changed to mark elsewhere, the marks are held against the job", () => {
    const bits = newBits(40, 6);
    bits.data.fill(0xa7);
    const job: Job = {
      ...{ name: "J", widthMm: 4, heightMm: 0.6 },
      bitmaps: [{ name: "a", bits, dotsPerInch: 254 }],
      sets: [
        pathSetOf({ name: "cut", use: "through", colour: 0 }, [
          { knots: rectangleKnots(0, 0, 4, 0.6), closed: true },
        ]),
      ],
    };
    const { program } = runToEnd(planRun(job, machine, runWish.parse({})));
    const text = new TextDecoder().decode(program.bytes).trimEnd().split("\n");
    const hold = (lines: readonly string[]) =>
      runToEnd(
        checkMarks(
          runToEnd(ProgramLines.of(bytes(`${lines.join("\n")}\n`))),
          job,
          machine,
          program.passes,
          program.at,
        ),
      );
    expect(() => hold(text)).not.toThrow();
    let tried = 0;
    text.forEach((line, k) => {
      const x = /X([\d.]+)/.exec(line);
      if (!x || (/S0$/.test(line) && k > 0)) return;
      tried++;
      const moved = line.replace(/X[\d.]+/, `X${(Number(x[1]) + 0.1).toFixed(4)}`);
      expect(() => hold(text.map((t, j) => (j === k ? moved : t)))).toThrow(/nothing is to be marked/);
    });
    expect(tried).toBeGreaterThan(20);
  });

  test("a plot: the knife up between lines, within its passes and its reach, nothing after the end", () => {
    const knife = USUAL_MACHINES[1];
    const head = ['CO"P";', "IN;IP0,0,40,40;SC0,1000,0,1000;OA;", 'CO"pass cut";SP1;VS10;OA;'];
    const of = [{ name: "cut", use: "through", lines: [3, 4] as const }];
    const plot = (...lines: string[]) =>
      runToEnd(
        checkProgram(bytes(`${[...head, ...lines].join("\n")}\n`), "application/vnd.hp-hpgl", knife, of),
      );
    const end = "PU0,0;SP0;OA;";
    expect(plot("PU20000,20000;PD30000,20000;PU;OA;", end).count).toBe(5);
    expect(() => plot("PU20000,20000;PD30000,20000;OA;", end)).toThrow(/stays down/);
    expect(() => plot("PU20000,20000;PD30000,20000;PU;OA;", "PU20000,30000;PD30000,30000;PU;", end)).toThrow(
      /outside of every pass/,
    );
    expect(() => plot("PU20000,20000;PD700000,20000;PU;OA;", end)).toThrow(/outside of what/);
    expect(() => plot("PU20000,20000;PD30000,20000;PU;OA;", end, "PU9,9;")).toThrow(/after the end/);
    expect(() => plot("PU20000,20000;PD30000,20000;PU;OA;")).toThrow(/does not end/);
  });
});

describe("codes among bytes", () => {
  test("wherever what arrives is cut, codes are heard in their turn and all else is what was sent", () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ maxLength: 200 }),
        fc.array(fc.nat(60), { maxLength: 12 }),
        (data, cuts) => {
          const sent = Buffer.concat([
            Buffer.of(ENQUIRY),
            escaped(data),
            Buffer.of(STOP),
            escaped(data),
            Buffer.of(PAUSE),
          ]);
          const filter = new CodeFilter();
          const [codes, out]: [number[], number[]] = [[], []];
          for (let from = 0, k = 0; from < sent.length; k++) {
            const to = Math.min(sent.length, from + 1 + (cuts[k % (cuts.length || 1)] ?? 7));
            out.push(...filter.take(sent.subarray(from, to), (c) => codes.push(c)));
            from = to;
          }
          expect(codes).toEqual([ENQUIRY, STOP, PAUSE]);
          expect(out).toEqual([...data, ...data]);
        },
      ),
    );
  });
});

describe("HP-GL, line by line", () => {
  const all = (text: string) => runToEnd(movesOfHpgl(bytes(text), cutter));

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
