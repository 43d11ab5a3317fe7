import { fieldsOf, filledRoute } from "./fields";
import { readRoute, settingsOf } from "./route";

const ROUTE = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "Tag",
  stages: [
    {
      stage: "trace",
      edits: [
        { edit: "text", text: "Name", at: [0.5, 0.4], field: "name" },
        { edit: "text", text: "Low Quay", at: [0.5, 0.6] },
        { edit: "text", text: "1908", at: [0.5, 0.8], field: "year" },
      ],
    },
  ],
});
const texts = (values: Record<string, string>) =>
  settingsOf(filledRoute(ROUTE, values), "trace")!.edits.map((e) => e.edit === "text" && e.text);

test("fields are filled by their names; others stay", () => {
  expect(fieldsOf(ROUTE)).toEqual(["name", "year"]);
  expect(texts({ name: "Ada", year: "1974" })).toEqual(["Ada", "Low Quay", "1974"]);
  expect(texts({ name: "Ada", colour: "red" })).toEqual(["Ada", "Low Quay", "1908"]);
});
test("an empty cell leaves its words out", () => {
  expect(texts({ name: "Ada", year: " " })).toEqual(["Ada", "Low Quay"]);
});
test("what is too long for words is refused with where it stands", () => {
  expect(() => filledRoute(ROUTE, { name: "x".repeat(501) })).toThrow(/trace: edits\.0\.text/);
});
test("the route itself is left alone", () => {
  filledRoute(ROUTE, { name: "Ada" });
  expect(settingsOf(ROUTE, "trace")!.edits[0]).toMatchObject({ text: "Name" });
});
