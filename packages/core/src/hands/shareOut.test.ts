import { runToEnd, type Work } from "../maths/work";
import { isShareable, joinIn, lend, roomFor, shareOut, type Shareable, type SharedJob } from "./shareOut";

interface Squares {
  readonly out: Int32Array;
}
const PARTS = 12;
/** Writes the square of each part's number, in two slices. */
const squares: Shareable<Squares> = {
  name: "squares",
  begin: ({ out }) =>
    function* (part) {
      yield 0;
      out[part] += 0; // a part that is done twice comes to the same
      yield 0.5;
      out[part] = part * part;
    },
};
const expected = Int32Array.from({ length: PARTS }, (_, k) => k * k);
const squaresRoom = (): Squares => ({ out: new Int32Array(roomFor(4 * PARTS)) });

afterEach(() => lend(null));

/** Hands that take a step whenever they are told to. */
function handsOf(known: readonly Shareable<never>[]) {
  const jobs: SharedJob[] = [];
  const at: Work<void>[] = [];
  lend({
    join: (job) => {
      jobs.push(job);
      at.push(joinIn(job, known));
    },
  });
  return { jobs, step: () => at.forEach((work) => work.next()) };
}

test("alone, everything is done and nothing is shared", () => {
  const given = squaresRoom();
  expect(isShareable(given.out)).toBe(false);
  runToEnd(shareOut(squares, given, PARTS));
  expect(given.out).toEqual(expected);
});

test("with other hands every part is done once by somebody, in whatever order they come to it", () => {
  for (const pace of [1, 2, 3, 7]) {
    const { step } = handsOf([squares]);
    const given = squaresRoom();
    expect(isShareable(given.out)).toBe(true);
    const work = shareOut(squares, given, PARTS);
    for (let n = 0; !work.next().done; n++) for (let k = 0; k < (pace * (n % 5)) % 7; k++) step();
    expect(Array.from(given.out)).toEqual(Array.from(expected));
  }
});

test("the parts a thread took and never brought back are done here", () => {
  const { jobs, step } = handsOf([squares]);
  const given = squaresRoom();
  const work = shareOut(squares, given, PARTS);
  work.next();
  step(); // takes a part, and is heard of no more
  runToEnd(work);
  expect(Array.from(given.out)).toEqual(Array.from(expected));
  expect(jobs).toHaveLength(1);
});

test("a part that fails elsewhere is dropped at once, and done here", () => {
  const failing: Shareable<Squares> = {
    name: "squares",

    begin: () =>
      function* () {
        throw new Error("out of memory");
      },
  };
  const given = squaresRoom();
  const jobs: SharedJob[] = [];
  lend({ join: (job) => jobs.push(job) });
  const room = new Int32Array(roomFor(4 * PARTS));
  const work = shareOut(squares, { out: room }, PARTS);
  work.next();
  expect(() => runToEnd(joinIn(jobs[0], [failing]))).toThrow("out of memory");
  expect(() => runToEnd(joinIn(jobs[0], []))).toThrow(); // a thread of another version, which does not know the name
  expect(Array.from(jobs[0].claims).filter((c, k) => k > 0 && c === 2)).toHaveLength(2);
  runToEnd(work);
  expect(Array.from(room)).toEqual(Array.from(expected));
  expect(given.out[3]).toBe(0);
});

test("stopped, nobody begins on another part", () => {
  const { jobs } = handsOf([squares]);
  const given = squaresRoom();
  const work = shareOut(squares, given, PARTS);
  work.next();
  work.return();
  const before = Array.from(given.out);
  runToEnd(joinIn(jobs[0], [squares]));
  expect(Array.from(given.out)).toEqual(before);
});
