import { type Rgba } from "../raster/types";
import { as } from "../result/result";
import { readRoute, type Route } from "../route/route";
import { Runner } from "../route/runner";
import { type ArtworkSource } from "../route/source";

/** A patchwork whose every part is another, on white. */
export function picture(width: number, height: number): Rgba {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 6; y < height - 9; y++)
    for (let x = 4; x < width - 12; x++)
      data.set(
        [(x * 7) % 256, (y * 11) % 256, ((x >> 3) * 31 + (y >> 3) * 17) % 256, 255],
        (y * width + x) * 4,
      );
  return { width, height, data };
}
export const sourceOf = (p: Rgba): ArtworkSource => ({
  facts: { sha256: "a".repeat(64), width: p.width, height: p.height, vector: false },
  pixels: async () => p,
});
export const last = async (route: Route, p: Rgba) => {
  const results = await new Runner().run(route, sourceOf(p));
  return as(results[results.length - 1].result, "picture");
};
export const ROUTE = readRoute({
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
          knots: [
            { at: [0.5, 0.6], out: [0.1, 0.02] },
            { at: [0.7, 0.7], in: [0.02, -0.1] },
            { at: [0.5, 0.8] },
          ],
        },
      ],
    },
  ],
});
