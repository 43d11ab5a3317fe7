import { weightedSum } from "./rows";
import { Aborted, drive, runToEnd, workSlice, rowsAtOnce, type Work } from "./work";

function* counting(to: number): Work<string> {
  for (let i = 0; i < to; i++) yield i / to;
  return `counted to ${to}`;
}

test("finish runs a computation through and gives its result", () => {
  expect(runToEnd(counting(5))).toBe("counted to 5");
});

test("a slice's progress lies within its share of the whole", () => {
  function* whole(): Work<string[]> {
    const a = yield* workSlice(counting(4), 0, 0.5);
    const b = yield* workSlice(counting(2), 0.5, 1);
    return [a, b];
  }
  const work = whole();
  const seen: number[] = [];
  for (let step = work.next(); ; step = work.next()) {
    if (step.done) {
      expect(step.value).toEqual(["counted to 4", "counted to 2"]);
      break;
    }
    seen.push(step.value);
  }
  expect(seen).toEqual([0, 0.125, 0.25, 0.375, 0.5, 0.75]);
});

test("drive reports progress, pauses after each workSlice, and gives the result", async () => {
  const progress: number[] = [];
  let pauses = 0;
  const result = await drive(counting(3), {
    progress: (p) => progress.push(p),
    pause: async () => void pauses++,
  });
  expect(result).toBe("counted to 3");
  expect([progress, pauses]).toEqual([[0, 1 / 3, 2 / 3], 3]);
});

test("drive stops at the slice after the abort, and leaves nothing running", async () => {
  const signal = { aborted: false };
  let slices = 0;
  function* endless(): Work<never> {
    for (;;) {
      slices++;
      yield 0;
    }
  }
  const running = drive(endless(), { signal, pause: async () => void (signal.aborted = slices === 7) });
  await expect(running).rejects.toBeInstanceOf(Aborted);
  await expect(drive(endless(), { signal })).rejects.toMatchObject({ name: "AbortError" });
  expect(slices).toBe(7);
});

test("an error in the computation comes through", async () => {
  function* failing(): Work<void> {
    throw new RangeError("out of range");
  }
  await expect(drive(failing())).rejects.toThrow("out of range");
});

test("rows at once are about half a million pixels, one row at least", () => {
  expect([rowsAtOnce(1), rowsAtOnce(1024), rowsAtOnce(1e9)]).toEqual([524288, 512, 1]);
});

test("a weighted sum of any number of rows equals adding them one by one", () => {
  for (const count of [1, 2, 3, 4, 5, 7, 8, 9, 12]) {
    const rows = Array.from({ length: count }, (_, k) =>
      Float64Array.from({ length: 6 }, (__, x) => Math.sin(k * 6 + x)),
    );
    const weights = Float64Array.from({ length: count + 2 }, (_, k) => k - 1.5);
    const out = new Float64Array(6).fill(99);
    weightedSum(rows, weights, 2, out);
    for (let x = 0; x < 6; x++)
      expect(out[x]).toBeCloseTo(
        rows.reduce((sum, row, k) => sum + row[x] * weights[k + 2], 0),
        12,
      );
  }
});
