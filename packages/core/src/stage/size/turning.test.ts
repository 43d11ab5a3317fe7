import { finish } from "../../maths/work";
import { turned } from "../../raster/turn";
import { type Rgba } from "../../raster/types";
import { as } from "../../result/result";
import { readRoute, settingsOf, type Route } from "../../route/route";
import { Runner } from "../../route/runner";
import { type ArtworkSource } from "../../route/source";
import { routeTurnedOn } from "./turning";

/** A patchwork whose every part is another, on white. */
function picture(width: number, height: number): Rgba {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 6; y < height - 9; y++)
    for (let x = 4; x < width - 12; x++)
      data.set(
        [(x * 7) % 256, (y * 11) % 256, ((x >> 3) * 31 + (y >> 3) * 17) % 256, 255],
        (y * width + x) * 4,
      );
  return { width, height, data };
}
const sourceOf = (p: Rgba): ArtworkSource => ({
  facts: { sha256: "a".repeat(64), width: p.width, height: p.height, vector: false },
  pixels: async () => p,
});
const last = async (route: Route, p: Rgba) => {
  const results = await new Runner().run(route, sourceOf(p));
  return as(results[results.length - 1].result, "picture");
};
const ROUTE = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "A",
  stages: [
    {
      stage: "size",
      widthMm: 8,
      dotsPerInch: 254,
      resample: "box",
      shape: { kind: "rectangle", box: [0.1, 0.05, 0.75, 0.9] },
    },
    {
      stage: "clear",
      fringe: "none",
      ops: [
        { op: "pick", at: [0.12, 0.07], tolerance: 3 },
        {
          op: "brush",
          paints: "away",
          strokes: [
            {
              points: [
                [0.3, 0.3],
                [0.6, 0.5, 0.4],
              ],
              sizeMm: 1,
            },
          ],
        },
        {
          op: "path",
          kind: "free",
          keep: "outside",
          knots: [{ at: [0.5, 0.6], out: [0.1, 0] }, { at: [0.7, 0.7], in: [0, -0.1] }, { at: [0.5, 0.8] }],
        },
      ],
    },
  ],
});

test.each(["right", "left", "mirrored", "upside down"] as const)(
  "turned %s, the piece is the same piece, turned",
  async (further) => {
    const p = picture(80, 60);
    const before = await last(ROUTE, p);
    const route = routeTurnedOn(ROUTE, further);
    const after = await last(route, p);
    const { straighten, turn, mirror } = settingsOf(route, "size")!;
    const wanted = finish(turned(before.colour, { straighten, turn, mirror }));
    expect([after.colour.width, after.colour.height]).toEqual([wanted.width, wanted.height]);
    let off = 0;
    for (let i = 3; i < wanted.data.length; i += 4)
      if (Math.abs(wanted.data[i] - after.colour.data[i]) > 40) off++;
    // strokes and outlines are laid on whole pixels from the other side
    expect(off / (wanted.width * wanted.height)).toBeLessThan(0.01);
    expect(wanted.data.some((v, i) => i % 4 === 3 && v === 0)).toBe(true);
    expect(wanted.data.some((v, i) => i % 4 === 3 && v === 255)).toBe(true);
  },
);

test("turned four times it is what it was; mirrored twice too", () => {
  let route = ROUTE;
  for (let k = 0; k < 4; k++) route = routeTurnedOn(route, "right");
  for (let k = 0; k < 2; k++) route = routeTurnedOn(route, "mirrored");
  expect(settingsOf(route, "size")).toEqual(settingsOf(ROUTE, "size"));
  expect(route.stages[1]).toMatchObject({
    ops: [{ op: "pick", at: [expect.closeTo(0.12, 9), expect.closeTo(0.07, 9)] }, {}, {}],
  });
});

test("a straightened artwork has room for its corners, and the finish follows", async () => {
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "A" },
    stages: [{ stage: "size", dotsPerInch: 254, straighten: 30 }],
  });
  const out = await last(route, picture(100, 50));
  // 100 cos 30 + 50 sin 30 by 100 sin 30 + 50 cos 30
  expect([out.colour.width, out.colour.height]).toEqual([112, 94]);
  expect(out.colour.data[3]).toBe(0);
});

test.each([
  ["turn", 45, /turn is 45; allowed: 0, 90, 180, 270/],
  ["straighten", 50, /straighten is 50; allowed: 45 or less/],
  ["mirror", "yes", /mirror/],
])("%s %p is refused", (setting, value, reason) => {
  const file = {
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "size", [setting]: value }],
  };
  expect(() => readRoute(file)).toThrow(reason);
});
