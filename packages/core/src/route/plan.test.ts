import { type AnyStage } from "../stage/stage";
import { type RegisteredStage } from "../stage/stages";
import { as } from "../result/result";
import { asRgba, randomGray, randomRgba } from "../testing/pictures";
import { deliver } from "./deliver";
import { planOf, stepAt, stepUpTo } from "./plan";
import { readRoute, settingsOf, withSettings } from "./route";
import { Runner } from "./runner";
import { type ArtworkSource } from "./source";
import { wired } from "./wiring";

const facts = { sha256: "f", width: 90, height: 60, vector: false };
const route = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "A",
  stages: [
    { stage: "size", widthMm: 12, dotsPerInch: 254 },
    { stage: "clear", ops: [{ op: "pick", at: [0.5, 0.5], tolerance: 3 }] },
    { stage: "tone", black: 0.1 },
    { stage: "blackWhite" },
  ],
});

test("every step takes from the nearest stage that gives what it takes", () => {
  const names = (r: typeof route) =>
    planOf(r, facts).steps.map((s) => Object.values(s.takes).map((t) => t.stage.id));
  expect(names(route)).toEqual([[], ["artwork"], ["size"], ["clear"], ["tone"]]);
  const bare = { ...route, stages: route.stages.filter((s) => s.stage === "blackWhite") };
  expect(names(bare)).toEqual([[], ["artwork"]]);
});

test("what a stage takes may depend on its settings, and is refused where nothing gives it", () => {
  const stage = (id: string, gives: string, takes: AnyStage["takes"]) =>
    ({ id, gives, takes }) as unknown as RegisteredStage;
  const art = stage("art", "picture", () => ({}));
  const outline = stage("outline", "paths", () => ({ art: ["picture"] }));
  const line = stage("line", "paths", (settings) => ({
    from: [(settings as { from: "picture" | "paths" }).from],
  }));
  const steps = (from: string, ...before: RegisteredStage[]) => [
    ...before.map((s) => ({ stage: s, settings: {} })),
    { stage: line, settings: { from } },
  ];
  expect(wired(steps("picture", art, outline))[2]).toEqual({ from: 0 });
  expect(wired(steps("paths", art, outline))[2]).toEqual({ from: 1 });
  expect(() => wired(steps("paths", art))).toThrow(
    "line: from is missing; allowed: a stage before it that gives paths",
  );
});

test("a key is of what is really taken: a moved tone leaves what comes before it, and another limit leaves all", () => {
  const keys = (r: typeof route) => planOf(r, facts).steps.map((s) => s.key);
  const moved = keys(withSettings(route, "tone", { black: 0.2 }));
  expect(moved.map((k, i) => k === keys(route)[i])).toEqual([true, true, true, false, false]);
  expect(keys({ ...route, checks: { ...route.checks, areaMm2: 9 } })).toEqual(keys(route));
  expect(planOf(route, { ...facts, sha256: "g" }).steps[0].key).not.toBe(keys(route)[0]);
});

test("size and place are known before anything is run; without Size every pixel is a dot", () => {
  const round = withSettings(route, "size", { shape: { kind: "round", box: [0.5, 0, 0.5, 1] } });
  expect(planOf(round, facts).place).toMatchObject({
    finish: { widthPx: 120, heightPx: 160 },
    frame: { x: 0.5, y: 0, width: 0.5, height: 1 },
  });
  expect(planOf({ ...route, stages: [] }, facts).place.finish).toMatchObject({ widthPx: 90, widthMm: 9 });
  expect(planOf(round, { ...facts, vector: true }).drawWidth).toBe(240);
  expect(planOf(round, facts).drawWidth).toBeUndefined();
});

test("steps are found by stage, or the last that comes no later", () => {
  const plan = planOf({ ...route, stages: route.stages.slice(0, 2) }, facts);
  expect(stepAt(plan, "tone")).toBeNull();
  expect(stepUpTo(plan, "tone").stage.id).toBe("clear");
  expect(settingsOf(plan.route, "clear")!.ops).toHaveLength(1);
});

describe("the runner", () => {
  const pixels = randomRgba(90, 60, 8, true);
  const reading = () => {
    let read = 0;
    const source: ArtworkSource = { facts, pixels: async () => (read++, pixels) };
    return { source, reads: () => read };
  };
  test("starts from the deepest result at hand, and needs nothing before it", async () => {
    const made = await new Runner().run(route, reading().source);
    const { source, reads } = reading();
    const runner = new Runner();
    runner.put(made[3].key, made[3].result);
    const plan = planOf(route, facts);
    const { result } = await runner.result(plan, source, stepAt(plan, "blackWhite")!);
    expect(result).toEqual(made[4].result);
    expect(reads()).toBe(0);
    expect(runner.kept(stepAt(plan, "size")!)).toBeUndefined();
  });
  test("keeps the results of one route, however small its budget", async () => {
    const { source, reads } = reading();
    const runner = new Runner({ cacheBytes: 10 });
    await runner.run(route, source);
    await runner.inspect(route, source);
    expect(reads()).toBe(1);
  });

  const passing = (picture = pixels): ArtworkSource & { rowsRead: number } => {
    const { width, height, data } = picture;
    let whole = true;
    for (let i = 3; i < data.length; i += 4) whole &&= data[i] === 255;
    const source = {
      facts,
      rowsRead: 0,
      pixels: async () => Promise.reject(new Error("the artwork was read whole")),
      rows: async (begin: Parameters<NonNullable<ArtworkSource["rows"]>>[0]) => {
        const take = begin({ width, height, whole });
        for (let y = 0; y < height; y++, source.rowsRead++)
          take(y, data.subarray(y * width * 4, (y + 1) * width * 4));
      },
    };
    return source;
  };
  test.each([
    [{ widthMm: 12, resample: "lanczos3" }, true],
    [{ widthMm: 4, resample: "box" }, true],
    [{ resample: "none" }, true],
    [{ widthMm: 7, shape: { kind: "round", box: [0.2, 0.3, 0.5, 0.6] } }, true],
    [{ widthMm: 12, resample: "bicubic" }, false],
  ])("rows that pass through give the bits of the whole: %j", async (size, alpha) => {
    const picture = alpha ? pixels : asRgba(randomGray(90, 60, 4));
    const one = readRoute({ ...route, stages: [{ stage: "size", dotsPerInch: 254, ...size }] });
    const held = await new Runner().run(one, { facts, pixels: async () => picture });
    const source = passing(picture);
    const files: string[] = [];
    const runner = new Runner({ lean: true });
    let sized: unknown;
    await deliver(runner, one, source, {
      file: async (f) => void files.push(f.name),
      seen: (r) => (sized = r),
    });
    expect(sized).toEqual(as(held[1].result, "picture"));
    expect([source.rowsRead, files]).toEqual([60, ["readings.json"]]);
  });
  test("rows stop coming when the work is stopped", async () => {
    const signal = { aborted: true };
    const runner = new Runner({ lean: true });
    const plan = planOf(route, facts);
    const source = passing();
    await expect(runner.result(plan, source, stepAt(plan, "size")!, { signal })).rejects.toThrow("stopped");
    expect(source.rowsRead).toBe(0);
  });
});
