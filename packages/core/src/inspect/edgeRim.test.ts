import { USUAL_LIMITS } from "./limits";
import { artFrom, pictureOf } from "../testing/clearings";
import { inspectStage, runStage } from "../testing/running";

describe("a rim left by hand", () => {
  // a red disc of radius 40 on green, cut free by an outline of radius `radius`
  const disc = pictureOf(120, 120, (x, y) =>
    Math.hypot(x + 0.5 - 60, y + 0.5 - 60) < 40 ? [196, 52, 40] : [60, 130, 80],
  );
  const rimOf = (ops: object[]) => {
    const done = runStage("clear", artFrom(disc), { ops });
    const limits = { ...USUAL_LIMITS, strayMm2: 0.01 };
    return inspectStage("clear", done, { ops }, limits).checks.find((c) => c.id === "edgeRim")!;
  };
  const outline = (radius: number) => {
    const [from, across] = [(60 - radius) / 120, (2 * radius) / 120];
    return { op: "path", kind: "round", keep: "inside", box: [from, from, across, across] };
  };
  test("is found without any pick: the old background lies under what was taken away", () => {
    const wide = rimOf([outline(42)]);
    expect([wide.level, wide.value > 60]).toEqual(["look", true]);
    expect(wide.places.length).toBeGreaterThan(0);
    expect(rimOf([outline(39)]).level).toBe("fine");
  });
  test("is found after an eraser", () => {
    const ring = Array.from({ length: 65 }, (_, k) => {
      const turn = (k * Math.PI) / 32;
      return [0.5 + (47 / 120) * Math.cos(turn), 0.5 + (47 / 120) * Math.sin(turn)];
    });
    // A band of 1 mm about radius 47: its inner side leaves two pixels of green about the disc.
    const wide = rimOf([{ op: "brush", paints: "away", strokes: [{ points: ring, sizeMm: 1 }] }]);
    expect(wide.level).toBe("look");
  });
  test("cannot be told where nothing was taken away", () => {
    expect(rimOf([]).text).toBe("No old background known");
    expect(rimOf([{ op: "hold", strokes: [] }]).text).toBe("No old background known");
  });
});
