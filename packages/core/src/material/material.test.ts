import { readRoute, settingsOf, type Route } from "../route/route";
import { deviationsFrom, patternSettings, PATTERNS, routeFor, withPattern } from "./material";
import { USUAL_MATERIALS } from "./usual";

const route = (...stages: object[]): Route =>
  readRoute({ format: "hard-line-route", version: 1, name: "A", stages });
const material = (key: string) => USUAL_MATERIALS.find((m) => m.key === key)!;
const plain = route(
  { stage: "size", widthMm: 60, dotsPerInch: 300 },
  { stage: "tone" },
  { stage: "blackWhite" },
);

test.each(USUAL_MATERIALS.map((m) => [m.key]))(
  "%s sets polarity, resolution and limits, and then nothing of them differs",
  (key) => {
    const made = routeFor(plain, material(key));
    const { answer, dotsPerInch, dotMm, gapMm, strokeMm } = material(key);
    expect(made.material).toBe(key);
    expect(made.checks).toMatchObject({ dotMm, gapMm, strokeMm, machineDotsPerInch: dotsPerInch });
    expect(settingsOf(made, "blackWhite")!.material).toBe(
      answer === "burns pale" ? "burns-pale" : "burns-dark",
    );
    expect(deviationsFrom(made, material(key)).filter((d) => d.what !== "pattern")).toEqual([]);
    expect(deviationsFrom(withPattern(made, material(key)), material(key))).toEqual([]);
  },
);

test("through resist a film is made whose dots are whole, and going to another material leaves none", () => {
  const glass = routeFor(plain, material("glass-resist"));
  expect(settingsOf(glass, "blackWhite")!.resistFilm).toEqual({ printerDotsPerInch: 720 });
  expect(settingsOf(routeFor(glass, material("slate")), "blackWhite")!.resistFilm).toBeUndefined();
});

test("what differs is named with both values", () => {
  const made = routeFor(plain, material("slate"));
  const other = { ...made, checks: { ...made.checks, dotMm: 0.3 } };
  expect(deviationsFrom(other, material("slate"))).toEqual([
    { what: "pattern", now: "floyd-steinberg", usual: "scatter" },
    { what: "smallest mark", now: "0.3 mm", usual: "0.1 mm" },
  ]);
  expect(deviationsFrom(plain, material("slate")).map((d) => d.what)).toEqual(
    expect.arrayContaining(["dots per inch", "polarity", "pattern"]),
  );
});

test("every pattern is one that a route takes", () => {
  for (const pattern of PATTERNS)
    expect(() =>
      route({ stage: "blackWhite", ...patternSettings({ pattern, linesPerInch: 30 }) }),
    ).not.toThrow();
});
