import { planOf } from "@hardline/core/route/plan";
import { readRoute } from "@hardline/core/route/route";
import { type StageId } from "@hardline/core/stage/stages";
import { sightOf } from "./sight";

const FACTS = { sha256: "a".repeat(64), width: 100, height: 80, vector: false };
const planWith = (...stages: object[]) =>
  planOf(readRoute({ format: "hard-line-route", version: 1, name: "A", stages }), FACTS);
const seen = (plan: ReturnType<typeof planWith>, stage: StageId) => {
  const { under, paths } = sightOf(plan, stage);
  return [under.stage.id, paths?.stage.id ?? null];
};
const MARKS = [
  { stage: "size", widthMm: 10 },
  { stage: "clear" },
  { stage: "tone" },
  { stage: "blackWhite" },
];

test("a cut line lies over the dots, and over the picture in colour where that is printed to it", () => {
  expect(seen(planWith(...MARKS, { stage: "cutLine" }), "cutLine")).toEqual(["blackWhite", "cutLine"]);
  const printed = planWith(...MARKS, { stage: "cutLine", print: {} });
  expect(seen(printed, "cutLine")).toEqual(["clear", "cutLine"]);
  expect(seen(printed, "blackWhite")).toEqual(["blackWhite", null]);
});

test("a stage that the route leaves out is seen as the last before it", () => {
  const films = planWith({ stage: "size", widthMm: 10 }, { stage: "clear" }, { stage: "films" });
  expect(seen(films, "cutLine")).toEqual(["clear", null]);
  expect(seen(films, "films")).toEqual(["films", null]);
});
