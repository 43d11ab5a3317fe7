import { readRoute, settingsOf } from "./route";
import { withWords, wordsOn } from "./words";

const words = (text: string, more: object = {}) => ({ edit: "text", text, at: [0.5, 0.5], ...more });
const route = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "A",
  stages: [
    { stage: "size", widthMm: 60 },
    { stage: "blackWhite" },
    { stage: "trace", edits: [words("Ann"), words("No 12", { field: "number" }), words("2026")] },
    { stage: "cutLine", edits: [words("Ann"), words("Gate")] },
  ],
});
const textsOf = (r: typeof route) =>
  (["trace", "cutLine"] as const).flatMap((id) =>
    settingsOf(r, id)!.edits.flatMap((e) => (e.edit === "text" ? [e.text] : [])),
  );

test("words that stand on a route are found once each, those of a table not at all", () => {
  expect(wordsOn(route)).toEqual(["Ann", "2026", "Gate"]);
});

test("others take their place wherever they stand, empty ones leave them out, and a table's stay", () => {
  const changed = withWords(
    route,
    new Map([
      ["Ann", "Berit"],
      ["Gate", " "],
      ["No 12", "none"],
    ]),
  );
  expect(textsOf(changed)).toEqual(["Berit", "No 12", "2026", "Berit"]);
  expect(withWords(route, new Map())).toEqual(route);
  expect(() => withWords(route, new Map([["Ann", "x".repeat(501)]]))).toThrow(/text is/);
});
