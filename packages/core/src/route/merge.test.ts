import fc from "fast-check";
import { mergeRoutes } from "./merge";
import { readRoute, settingsOf, withSettings, withStage, withoutStage, type Route } from "./route";

const base = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "Pale oak",
  stages: [
    { stage: "size", widthMm: 60, dotsPerInch: 254 },
    { stage: "tone" },
    { stage: "blackWhite" },
    { stage: "cutLine" },
  ],
});
const change = (...steps: ((r: Route) => Route)[]) => steps.reduce((r, step) => step(r), base);
const border = (mm: number) => (r: Route) => withSettings(r, "cutLine", { offsetMm: mm });
const kiss = (r: Route) => withSettings(r, "cutLine", { kind: "kiss" });
const wide = (r: Route) => withSettings(r, "size", { widthMm: 80 });

test("changes of two stages are both had", () => {
  const { route, conflicts } = mergeRoutes(base, change(wide), change(border(2)));
  expect(conflicts).toEqual([]);
  expect(settingsOf(route!, "size")!.widthMm).toBe(80);
  expect(settingsOf(route!, "cutLine")!.offsetMm).toBe(2);
});

test("changes of two settings of one stage are both had, those within others too", () => {
  const { route } = mergeRoutes(base, change(kiss), change(border(2)));
  expect(settingsOf(route!, "cutLine")).toMatchObject({ kind: "kiss", offsetMm: 2 });
  const parts = (p: object) => (r: Route) =>
    withSettings(r, "cutLine", { parts: { keep: "all", smallestMm2: 0, bridgeMm: 0, ...p } });
  const inner = mergeRoutes(base, change(parts({ bridgeMm: 1 })), change(parts({ smallestMm2: 4 })));
  expect(settingsOf(inner.route!, "cutLine")!.parts).toEqual({ keep: "all", smallestMm2: 4, bridgeMm: 1 });
});

test("the same setting is a conflict, unless both set it alike", () => {
  expect(mergeRoutes(base, change(border(1)), change(border(2)))).toEqual({
    route: null,
    conflicts: [{ stage: "cutLine", setting: "offsetMm" }],
  });
  expect(mergeRoutes(base, change(border(2)), change(border(2), kiss)).route).toEqual(
    change(border(2), kiss),
  );
});

test("a stage that one put in, or left out, is there or gone", () => {
  const traced = mergeRoutes(base, withStage(base, "trace"), change(border(2)));
  expect(traced.route!.stages.map((s) => s.stage)).toEqual([
    "size",
    "tone",
    "blackWhite",
    "trace",
    "cutLine",
  ]);
  expect(mergeRoutes(base, withoutStage(base, "cutLine"), change(wide)).route!.stages).toHaveLength(3);
  expect(mergeRoutes(base, withoutStage(base, "cutLine"), change(border(2))).conflicts).toEqual([
    { stage: "cutLine", setting: "the whole stage" },
  ]);
});

test("a stage that both put in alike is there once", () => {
  const both = withStage(base, "trace");
  expect(mergeRoutes(base, both, both).route).toEqual(both);
});

test("two changes that cannot be had both are a conflict of what is in the way", () => {
  const traced = withStage(base, "trace");
  const along = withSettings(traced, "cutLine", { from: "trace" });
  const { route, conflicts } = mergeRoutes(traced, along, withoutStage(traced, "trace"));
  expect(route).toBeNull();
  expect(conflicts).toEqual([{ stage: "cutLine", setting: expect.any(String) }]);
});

const settings = fc.record({
  border: fc.integer({ min: 0, max: 3 }),
  wide: fc.integer({ min: 50, max: 53 }),
  kind: fc.constantFrom("through", "kiss", "score"),
});
const routeOf = (s: { border: number; wide: number; kind: string }) =>
  withSettings(withSettings(base, "size", { widthMm: s.wide }), "cutLine", {
    offsetMm: s.border,
    kind: s.kind,
  });

test("who merges makes no difference, and one who changed nothing gets the other's", () => {
  fc.assert(
    fc.property(settings, settings, settings, (a, b, c) => {
      const [was, here, there] = [routeOf(a), routeOf(b), routeOf(c)];
      const [one, other] = [mergeRoutes(was, here, there), mergeRoutes(was, there, here)];
      expect(one.route).toEqual(other.route);
      expect(one.conflicts).toEqual(other.conflicts);
      expect(mergeRoutes(was, was, there).route).toEqual(there);
      expect(mergeRoutes(was, here, was).route).toEqual(here);
      // Worked out by hand: each setting that only one changed is that one's.
      const keys = ["border", "wide", "kind"] as const;
      const clash = keys.filter((k) => b[k] !== a[k] && c[k] !== a[k] && b[k] !== c[k]);
      expect(one.conflicts).toHaveLength(clash.length);
      if (clash.length > 0) return;
      const merged = Object.fromEntries(keys.map((k) => [k, b[k] !== a[k] ? b[k] : c[k]]));
      expect(one.route).toEqual(routeOf(merged as typeof a));
    }),
  );
});
