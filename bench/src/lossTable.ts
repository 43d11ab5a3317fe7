import { type Check } from "@hardline/core/inspect/check";
import { USUAL_LIMITS } from "@hardline/core/inspect/limits";
import { runToEnd } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { componentsOf } from "@hardline/core/region/components";
import { squaredDistanceTo } from "@hardline/core/region/distance";
import { toleranceFor } from "@hardline/core/reading/proposal";
import { readArtwork } from "@hardline/core/reading/reading";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type LossPicture } from "@hardline/demo";

/** How somebody clears it: as it is proposed, too eagerly, and everywhere at once. */
export const WAYS = ["usual", "eager", "everywhere"] as const;
export type Way = (typeof WAYS)[number];

export interface LossRow {
  /** Pixels of the largest part that is gone by the truth, not counting those right beside what was kept. */
  readonly lost: number;
  readonly check: Check;
  readonly result: Rgba;
}

/** How far a picture's colour must be from the ground's to be seen, in code values; and how near to what is kept is beside it. */
const [SEEN, BESIDE] = [12, 3];

/** Clears a picture and compares what is gone with the truth. */
export async function measureLoss({ picture, art, ground }: LossPicture, way: Way): Promise<LossRow> {
  const { width, height } = picture;
  const facts = { sha256: "", width, height, vector: false };
  const usual = toleranceFor(readArtwork(picture, facts));
  const tolerance = way === "eager" ? usual + 9 : usual;
  const ops = [
    { op: "pick", at: [0.01, 0.01], tolerance, joined: way !== "everywhere" },
    ...(way === "everywhere" ? [] : [{ op: "gaps", tolerance }]),
  ];
  const stages = [{ stage: "clear", ops, specksMm2: 0.05 }];
  const route = readRoute({ format: "hard-line-route", version: 1, name: "x", checks: USUAL_LIMITS, stages });
  const source = { facts, pixels: async () => picture };
  const runner = new Runner();
  const result = as((await runner.run(route, source))[1].result, "picture").colour;
  const [, found] = await runner.inspect(route, source);
  const kept = Uint8Array.from({ length: width * height }, (_, i) => (result.data[4 * i + 3] >= 26 ? 1 : 0));
  const off = runToEnd(squaredDistanceTo(kept, width, height));
  const gone = (i: number): boolean => {
    if (kept[i] || art[4 * i + 3] < 230 || off[i] <= BESIDE * BESIDE) return false;
    const [r, g, b] = [0, 1, 2].map((k) => art[4 * i + k] - ground[k]);
    return Math.hypot(r, g, b) > SEEN;
  };
  const parts = runToEnd(
    componentsOf(width, height, (y, row) => row.forEach((_, x) => (row[x] = gone(y * width + x) ? 1 : 0))),
  );
  return {
    lost: Math.max(0, ...parts.map((p) => p.pixels)),
    check: found.checks.find((c) => c.id === "lostArt")!,
    result,
  };
}
