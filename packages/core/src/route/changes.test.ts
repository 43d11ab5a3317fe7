import { changesBetween } from "./changes";
import { readRoute, withSettings, withStage, withoutStage, type Route } from "./route";

const route = (...stages: object[]): Route =>
  readRoute({ format: "hard-line-route", version: 1, name: "Pale oak", stages });
const words = (was: Route, now: Route) => changesBetween(was, now).map((c) => `${c.stage}: ${c.words}`);

const oak = route(
  { stage: "size", widthMm: 60, dotsPerInch: 254 },
  { stage: "clear", ops: [{ op: "pick", at: [0.1, 0.1], tolerance: 12 }] },
  { stage: "tone" },
  { stage: "cutLine" },
);

test("a route that stands as it stood has no changes", () => {
  expect(words(oak, oak)).toEqual([]);
  expect(words(oak, readRoute(JSON.parse(JSON.stringify(oak))))).toEqual([]);
});

test.each<[string, Route, string[]]>([
  ["a length", withSettings(oak, "cutLine", { offsetMm: 2 }), ["cutLine: border 2 mm, was 0"]],
  ["a number", withSettings(oak, "size", { dotsPerInch: 300 }), ["size: dots per inch 300, was 254"]],
  ["a choice", withSettings(oak, "cutLine", { join: "mitre" }), ["cutLine: join mitre, was round"]],
  [
    "two of one stage",
    withSettings(oak, "cutLine", { offsetMm: 1.25, kind: "kiss" }),
    ["cutLine: border 1.25 mm, was 0", "cutLine: kind kiss, was through"],
  ],
  [
    "a setting within another",
    withSettings(oak, "cutLine", { parts: { keep: "largest", smallestMm2: 0, bridgeMm: 3 } }),
    ["cutLine: parts keep largest, was all", "cutLine: parts bridge 3 mm, was 0"],
  ],
  ["one that is set in whole", withSettings(oak, "cutLine", { tab: {} }), ["cutLine: tab on"]],
  [
    "a list that grew",
    withSettings(oak, "clear", {
      ops: [
        { op: "pick", at: [0.1, 0.1], tolerance: 12 },
        { op: "pick", at: [0.5, 0.1], tolerance: 12 },
        { op: "pick", at: [0.9, 0.1], tolerance: 12 },
      ],
    }),
    ["clear: ops: 2 × pick added"],
  ],
  [
    "an entry of a list",
    withSettings(oak, "clear", { ops: [{ op: "pick", at: [0.1, 0.1], tolerance: 20 }] }),
    ["clear: ops: pick changed"],
  ],
  ["an emptied list", withSettings(oak, "clear", { ops: [] }), ["clear: ops: pick taken away"]],
  [
    "a curve",
    withSettings(oak, "tone", {
      curve: [
        [0, 0],
        [0.5, 0.7],
        [1, 1],
      ],
    }),
    ["tone: curve changed"],
  ],
  ["a stage more", withStage(oak, "trace"), ["trace: put in"]],
  ["a stage less", withoutStage(oak, "clear"), ["clear: left out"]],
  ["its name", { ...oak, name: "Dark oak" }, ["route: name Dark oak, was Pale oak"]],
  ["its material", { ...oak, material: "oak" }, ["route: material oak, was none"]],
])("%s", (_what, now, said) => expect(words(oak, now)).toEqual(said));

test("what there is none of back is told too", () => {
  const tabbed = withSettings(oak, "cutLine", { tab: {} });
  expect(words(tabbed, oak)).toEqual(["cutLine: tab off"]);
});

test("a hundred changes are told in forty lines of 160 letters", () => {
  const ways = Array.from({ length: 20 }, (_, k) => ({
    name: `${"long ".repeat(7)}${k}`,
    garment: "#112233",
  }));
  const [{ words: said }] = changesBetween(oak, readRoute({ ...oak, colourways: ways }));
  expect(said.length).toBe(160);
});
