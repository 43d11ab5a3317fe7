import { runToEnd } from "../maths/work";
import { last, picture, ROUTE, sourceOf } from "../testing/patchwork";
import { turned } from "../turn/turned";
import { placeBefore } from "../turn/turnedPlace";
import { planOf } from "./plan";
import { readRoute, replaceSettings, settingsOf, type Route } from "./route";
import { routeTurnedBy } from "./turning";

describe("a paper made flat", () => {
  const corners = [
    [0.15, 0.1],
    [0.9, 0.2],
    [0.85, 0.95],
    [0.1, 0.8],
  ] as [[number, number], [number, number], [number, number], [number, number]];
  const paper = { corners, lens: -0.02, light: false };
  const facts = sourceOf(picture(800, 600)).facts;

  test("what was placed on it stays on it, and is where it was once the paper is left as photographed", () => {
    const flat = routeTurnedBy(ROUTE, { paper }, facts);
    const picks = (route: Route) =>
      settingsOf(route, "clear")!.ops.flatMap((op) => (op.op === "pick" ? [op.at] : []));
    const middle = routeTurnedBy(
      replaceSettings(ROUTE, "clear", {
        ...settingsOf(ROUTE, "clear")!,
        ops: [{ op: "pick", at: [0.5, 0.5] }],
      }),
      { paper },
      facts,
    );
    // the middle of the picture lies within the paper, and there it is looked for
    const [at] = picks(middle);
    const turn = planOf(middle, facts).turn;
    const [u, v] = placeBefore(facts, turn)(at as [number, number]);
    expect([u, v]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0.5, 6)]);
    const back = routeTurnedBy(flat, { paper: undefined }, facts);
    expect(settingsOf(back, "size")!.paper).toBeUndefined();
    const path = settingsOf(back, "clear")!.ops.find((op) => op.op === "path")!;
    const was = settingsOf(ROUTE, "clear")!.ops.find((op) => op.op === "path")!;
    if (path.op !== "path" || was.op !== "path") throw new Error("there is no path");
    path.knots.forEach(({ at: [x, y], out }, k) => {
      expect([x, y]).toEqual([expect.closeTo(was.knots[k].at[0], 5), expect.closeTo(was.knots[k].at[1], 5)]);
      const given = was.knots[k].out;
      if (given) expect(out![0]).toBeCloseTo(given[0], 5);
    });
  });

  test("a piece's box becomes the one round it", () => {
    const shaped = replaceSettings(ROUTE, "size", {
      ...settingsOf(ROUTE, "size")!,
      shape: { kind: "rectangle", box: [0.15, 0.1, 0.75, 0.85] },
    });
    const { shape } = settingsOf(routeTurnedBy(shaped, { paper }, facts), "size")!;
    // it held all of the paper, so it holds all of it still
    expect(shape).toMatchObject({ kind: "rectangle", box: [0, 0, 1, 1] });
  });

  test("the finish follows the paper's proportion", () => {
    const route = routeTurnedBy(
      replaceSettings(ROUTE, "size", { ...settingsOf(ROUTE, "size")!, shape: { kind: "whole" } }),
      { paper: { ...paper, proportion: 2 } },
      facts,
    );
    const { finish } = planOf(route, facts).place;
    expect(finish.widthMm / finish.heightMm).toBeCloseTo(2, 1);
  });

  test("and the runner gives what the paper shows", async () => {
    const route = readRoute({
      ...{ format: "hard-line-route", version: 1, name: "A" },
      stages: [{ stage: "size", resample: "none", paper: { corners, proportion: 1.4 } }],
    });
    const p = picture(400, 300);
    const out = await last(route, p);
    const wanted = runToEnd(turned(p, planOf(route, sourceOf(p).facts).turn));
    expect(out.colour.data).toEqual(wanted.data);
    expect(out.colour.width / out.colour.height).toBeCloseTo(1.4, 2);
  });
});
