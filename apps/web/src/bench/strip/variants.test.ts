import { readRoute, settingsOf, type BlackWhiteSettings } from "@hardline/core";
import { variantsOf, type StripSetting } from "./variants";

const routeOf = (blackWhite: object) =>
  readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "blackWhite", ...blackWhite }],
  });
const labels = (blackWhite: object, setting: StripSetting) =>
  variantsOf(routeOf(blackWhite), setting).map((v) => (v.kept ? `[${v.label}]` : v.label));

test("what is set now is always among the five, and only that is kept", () => {
  expect(labels({ kernel: "stucki" }, "method")).toEqual(["Floyd", "Jarvis", "[Stucki]", "Atkinson", "Line"]);
  expect(labels({ kernel: "burkes" }, "method")).toEqual(["Floyd", "Jarvis", "Stucki", "[Burkes]", "Line"]);
  expect(labels({ method: "line", threshold: 90 }, "method")).toEqual([
    "Floyd",
    "Jarvis",
    "Stucki",
    "Atkinson",
    "[Line]",
  ]);
  expect(labels({ strength: 0.84 }, "strength")).toEqual(["100 %", "92 %", "[84 %]", "76 %", "68 %"]);
  expect(labels({ strength: 0.9 }, "strength")).toEqual(["100 %", "[90 %]", "84 %", "76 %", "68 %"]);
});

test("variants differ in the one setting and keep all others", () => {
  const variants = variantsOf(
    routeOf({ kernel: "sierra", strength: 0.7, serpentine: true, material: "burns-pale" }),
    "method",
  );
  const settings = variants.map((v) => settingsOf<BlackWhiteSettings>(v.route, "blackWhite")!);
  for (const s of settings) expect(s.material).toBe("burns-pale");
  for (const s of settings.slice(0, 4)) expect(s).toMatchObject({ strength: 0.7, serpentine: true });
});

test("strength has no strip without scatter", () => {
  expect(variantsOf(routeOf({ method: "line" }), "strength")).toEqual([]);
});
