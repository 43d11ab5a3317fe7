import { readRoute, settingsOf, type Route } from "../route/route";
import { kindAt } from "./schema";
import { MOST_VARIANTS, spreadOf, stepsTyped, variantsOf, type Axis } from "./spread";
import { stageById, type StageId } from "../stage/stages";

const route = (...stages: object[]): Route =>
  readRoute({ format: "hard-line-route", version: 1, name: "A", stages });
const full = route(
  { stage: "size", widthMm: 60 },
  { stage: "clear", ops: [{ op: "pick", at: [0.1, 0.1], tolerance: 12, joined: true }] },
  {
    stage: "tone",
    curve: [
      [0, 0],
      [0.5, 0.6],
      [1, 1],
    ],
    sharpen: { radiusMm: 0.15, amount: 0.6 },
  },
  { stage: "blackWhite", method: "screen", linesPerInch: 30 },
);
const axis = (stage: StageId, path: string, more: Partial<Axis> = {}): Axis => ({
  stage,
  path,
  title: path,
  ...more,
});
const valuesOf = (of: Axis) => spreadOf(full, of).steps.map((s) => s.value);

test("what may be set is known of every place of the settings, within lists and choices too", () => {
  const kind = (stage: StageId, path: string) =>
    kindAt(stageById(stage).settings, settingsOf(full, stage), path.split("."));
  expect(kind("tone", "sharpen.amount")).toEqual({ kind: "number", least: 0, most: 5, whole: false });
  expect(kind("tone", "curve")).toEqual({ kind: "curve" });
  expect(kind("size", "resample")).toEqual({
    kind: "choice",
    options: ["lanczos3", "bicubic", "box", "none"],
  });
  expect(kind("size", "turn")).toEqual({ kind: "choice", options: [0, 90, 180, 270] });
  expect(kind("size", "mirror").kind).toBe("choice");
  expect(kind("clear", "ops.0.tolerance").kind).toBe("number");
  expect(kind("blackWhite", "linesPerInch")).toMatchObject({ kind: "number", most: 400 });
  expect(kind("blackWhite", "dot").kind).toBe("choice");
  expect(kind("blackWhite", "smallestMark")).toMatchObject({ kind: "number", whole: true });
  expect(kind("blackWhite", "nothing").kind).toBe("fixed");
});

test.each<[StageId, string]>([
  ["tone", "sharpen.amount"],
  ["tone", "black"],
  ["tone", "curve"],
  ["clear", "ops.0.tolerance"],
  ["blackWhite", "linesPerInch"],
  ["blackWhite", "angle"],
  ["blackWhite", "holdHighlight"],
  ["blackWhite", "smallestMark"],
  ["size", "straighten"],
])(
  "%s, %s: five steps, in order, what is set now among them, each with a route that has it",
  (stage, path) => {
    const { steps } = spreadOf(full, axis(stage, path));
    expect(steps).toHaveLength(5);
    expect(steps.filter((s) => s.kept)).toHaveLength(1);
    const numbers = steps.map((s) => Number(s.value));
    expect([...numbers].sort((a, b) => a - b)).toEqual(numbers);
    expect(new Set(steps.map((s) => JSON.stringify(s.route))).size).toBe(5);
    expect(steps.find((s) => s.kept)!.route).toEqual(full);
  },
);

test("only the one setting is changed", () => {
  const { steps } = spreadOf(full, axis("tone", "sharpen.amount"));
  const [first] = steps;
  expect(settingsOf(first.route, "tone")).toEqual({
    ...settingsOf(full, "tone"),
    sharpen: { radiusMm: 0.15, amount: first.value },
  });
  expect(settingsOf(first.route, "blackWhite")).toBe(settingsOf(full, "blackWhite"));
});

test("a curve is spread by how much it bends, a straight one by a lift of its middle", () => {
  const bent = spreadOf(full, axis("tone", "curve")).steps;
  expect(bent.map((s) => s.label)).toEqual([
    "0 % of the curve",
    "50 % of the curve",
    "100 % of the curve",
    "150 % of the curve",
    "200 % of the curve",
  ]);
  expect(settingsOf(bent[3].route, "tone")!.curve).toEqual([
    [0, 0],
    [0.5, 0.65],
    [1, 1],
  ]);
  const straight = spreadOf(route({ stage: "tone" }), axis("tone", "curve")).steps;
  expect(straight.map((s) => s.label)).toEqual([
    "middle -10",
    "middle 0",
    "middle +10",
    "middle +20",
    "middle +30",
  ]);
  expect(settingsOf(straight[2].route, "tone")!.curve).toEqual([
    [0, 0],
    [0.5, 0.6],
    [1, 1],
  ]);
});

test("steps may be given, nine at most, and must be allowed", () => {
  expect(valuesOf(axis("blackWhite", "linesPerInch", { values: [20, 30] }))).toEqual([20, 30]);
  const many = Array.from({ length: 20 }, (_, k) => 20 + k);
  expect(valuesOf(axis("blackWhite", "linesPerInch", { values: many }))).toHaveLength(MOST_VARIANTS);
  expect(() => spreadOf(full, axis("blackWhite", "linesPerInch", { values: [9999] }))).toThrow(
    /linesPerInch is 9999; allowed: 400 or less/,
  );
  expect(stepsTyped("20, 30 %; 45 mm", "number")).toEqual([20, 30, 45]);
  expect(stepsTyped("20, many", "number")).toBeNull();
  expect(stepsTyped("round, line", "choice")).toEqual(["round", "line"]);
  expect(stepsTyped(" ", "number")).toBeNull();
});

test("methods are compared as wholes, up to nine of them", () => {
  const { kind, steps } = spreadOf(full, axis("blackWhite", "method"));
  expect(kind).toBe("ways");
  expect(steps.filter((s) => s.kept).map((s) => s.label)).toEqual(["Screen 30"]);
  expect(steps.length).toBeGreaterThan(5);
  expect(steps.length).toBeLessThanOrEqual(MOST_VARIANTS);
});

test("two settings make a grid around what is set now", () => {
  const variants = variantsOf(full, [axis("blackWhite", "linesPerInch"), axis("tone", "sharpen.amount")]);
  expect(variants).toHaveLength(9);
  expect(variants.filter((v) => v.kept)).toHaveLength(1);
  const pairs = variants.map(
    (v) =>
      [settingsOf(v.route, "blackWhite") as { linesPerInch?: number }, settingsOf(v.route, "tone")!] as const,
  );
  expect(new Set(pairs.map(([b, t]) => `${b.linesPerInch} ${t.sharpen.amount}`)).size).toBe(9);
  expect(new Set(variants.map((v) => v.labels.join(" × "))).size).toBe(9);
});
