import { runToEnd } from "../maths/work";
import { as, type Result } from "../result/result";
import { lessPlace } from "../result/reduce";
import { viewOf } from "../result/view";
import { asRgba, grayOf } from "../testing/pictures";
import { draftOf, leadInOf } from "./draft";
import { planOf, stepAt, type Plan } from "./plan";
import { readRoute, withSettings, type Route } from "./route";
import { Runner } from "./runner";
import { type ArtworkSource } from "./source";

/** Soft shading, so that dots have a tone to average to. */
const shading = asRgba(
  grayOf(400, 300, (x, y) => 128 + 70 * Math.sin(x / 37) * Math.cos(y / 29) + ((x * 7 + y * 13) % 5)),
);
const source: ArtworkSource = {
  facts: { sha256: "s", width: 400, height: 300, vector: false },
  pixels: async () => shading,
};
const routeOf = (...stages: object[]): Route =>
  readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "size", widthMm: 80, dotsPerInch: 254 }, ...stages],
  });
const base = routeOf({ stage: "tone" }, { stage: "blackWhite", kernel: "stucki" });

async function dragged(route: Route): Promise<{ runner: Runner; plan: Plan }> {
  const runner = new Runner();
  await runner.run(base, source);
  return { runner, plan: planOf(route, source.facts) };
}
const seen = (result: Result, width: number, height: number) =>
  runToEnd(
    viewOf(result, {
      part: { x: 0, y: 0, width: result.finish.widthPx, height: result.finish.heightPx },
      width,
      height,
      base: 0xffffff,
    }),
  ).data;
const meanOff = (a: Uint8Array, b: Uint8Array): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;

test.each([
  [
    {
      curve: [
        [0, 0],
        [0.5, 0.7],
        [1, 1],
      ],
    },
    {},
  ],
  [{ sharpen: { amount: 1, radiusMm: 0.3 } }, { strength: 0.8 }],
  [{}, { kernel: "atkinson", material: "burns-pale" }],
])("reduced, a draft looks like the exact: tone %j, dots %j", async (tone, dots) => {
  const route = withSettings(withSettings(base, "tone", tone), "blackWhite", dots);
  const { runner, plan } = await dragged(route);
  const step = stepAt(plan, "blackWhite")!;
  const draft = runToEnd(draftOf(runner, plan, step, { kind: "halves", times: 2 }))!;
  expect(draft.kind).toBe("tone"); // dots from afar
  expect(draft.finish).toMatchObject({ widthPx: 200, heightPx: 150, dotsPerInch: 63.5 });
  const exact = (await runner.result(plan, source, step)).result;
  expect(meanOff(seen(draft, 100, 75), seen(exact, 100, 75))).toBeLessThan(4);
});

test("rows by themselves, with a lead-in, are those of the whole where every pixel is decided alone", async () => {
  const line = withSettings(
    routeOf({ stage: "tone" }, { stage: "blackWhite", method: "line", threshold: 120 }),
    "tone",
    {
      black: 0.1,
    },
  );
  const { runner, plan } = await dragged(line);
  const step = stepAt(plan, "blackWhite")!;
  expect(leadInOf(runner, plan, step)).toBe(0);
  const draft = runToEnd(draftOf(runner, plan, step, { kind: "rows", from: 100, to: 180 }))!;
  const exact = as((await runner.result(plan, source, step)).result, "plates").plates[0].bits;
  const { bits } = as(draft, "plates").plates[0];
  expect([bits.width, bits.height]).toEqual([800, 80]);
  expect(bits.data).toEqual(exact.data.subarray(100 * exact.stride, 180 * exact.stride));
  const { frame, finish } = lessPlace(plan.place, { kind: "rows", from: 100, to: 180 });
  expect([frame.y, frame.height, finish.heightMm]).toEqual([100 / 600, 80 / 600, 8]);
});

test("scattered rows have the tone of the whole's, and need rows above them", async () => {
  const { runner, plan } = await dragged(
    withSettings(base, "tone", { black: 0.05, sharpen: { amount: 0.5 } }),
  );
  const step = stepAt(plan, "blackWhite")!;
  expect(leadInOf(runner, plan, step)).toBe(48 + 5);
  const draft = runToEnd(draftOf(runner, plan, step, { kind: "rows", from: 200, to: 360 }))!;
  const { result } = await runner.result(plan, source, step);
  const all = seen(result, 200, 150);
  expect(meanOff(seen(draft, 200, 40), all.subarray(50 * 800, 90 * 800))).toBeLessThan(12);
});

test("a threshold of the whole picture cannot be told from some rows", async () => {
  const auto = routeOf({ stage: "tone" }, { stage: "blackWhite", method: "line", threshold: "auto" });
  const { runner, plan } = await dragged(auto);
  const step = stepAt(plan, "blackWhite")!;
  expect(leadInOf(runner, plan, step)).toBeNull();
  expect(runToEnd(draftOf(runner, plan, step, { kind: "rows", from: 0, to: 50 }))).toBeNull();
  expect(runToEnd(draftOf(runner, plan, step, { kind: "halves", times: 1 }))).not.toBeNull();
});

test("a clearing, and another size, have a draft; without a start there is none, and none is needed", async () => {
  const cleared = routeOf({ stage: "clear", ops: [{ op: "pick", at: [0.1, 0.1], tolerance: 6 }] });
  const { runner, plan } = await dragged(cleared);
  const draft = runToEnd(draftOf(runner, plan, stepAt(plan, "clear")!, { kind: "halves", times: 1 }))!;
  expect(as(draft, "picture").colour).toMatchObject({ width: 400, height: 300 });
  const larger = planOf(withSettings(base, "size", { widthMm: 160 }), source.facts);
  const size = runToEnd(draftOf(runner, larger, stepAt(larger, "size")!, { kind: "halves", times: 3 }))!;
  expect(as(size, "picture").colour).toMatchObject({ width: 200, height: 150 });
  expect(runToEnd(draftOf(new Runner(), plan, plan.steps[1], { kind: "halves", times: 1 }))).toBeNull();
  const same = planOf(base, source.facts);
  expect(runToEnd(draftOf(runner, same, same.steps[3], { kind: "halves", times: 1 }))).toBeNull();
});
