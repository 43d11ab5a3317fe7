import { type Check } from "@hardline/core/inspect/check";
import { USUAL_LIMITS } from "@hardline/core/inspect/limits";
import { type Rgba } from "@hardline/core/raster/types";
import { toleranceFor } from "@hardline/core/reading/proposal";
import { readArtwork } from "@hardline/core/reading/reading";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type RimPicture } from "@hardline/demo";
import { bandAbout } from "./band";

export interface RimRow {
  /** Mean error of the cover within twelve pixels of part-covered ones, in percent. */
  readonly band: number;
  /** Edge pixels that by the truth still carry the old ground, in percent. */
  readonly pale: number;
  /** Islands where nothing of the art is. */
  readonly dust: number;
  readonly checks: ReadonlyMap<string, Check>;
  readonly result: Rgba;
}

/** Clears a picture by a pick at its corner and its gaps, and compares what is left with the truth. */
export async function measureRim({ picture, art }: RimPicture): Promise<RimRow> {
  const { width, height } = picture;
  const facts = { sha256: "", width, height, vector: false };
  const tolerance = toleranceFor(readArtwork(picture, facts));
  const ops = [
    { op: "pick", at: [0.01, 0.01], tolerance },
    { op: "gaps", tolerance },
  ];
  const stages = [{ stage: "clear", ops, specksMm2: 0.05 }];
  const checks = USUAL_LIMITS;
  const route = readRoute({ format: "hard-line-route", version: 1, name: "x", checks, stages });
  const source = { facts, pixels: async () => picture };
  const runner = new Runner();
  const result = as((await runner.run(route, source))[1].result, "picture").colour;
  const [, found] = await runner.inspect(route, source);
  const truth = Uint8Array.from({ length: width * height }, (_, i) => art[i * 4 + 3]);
  const band = bandAbout(truth, width, height);
  const [near, at] = [bandAbout(truth, width, height, 2), result.data];
  let [off, count, edge, pale] = [0, 0, 0, 0];
  const ground = [picture.data[0], picture.data[1], picture.data[2]];
  for (let i = 0; i < truth.length; i++) {
    if (band[i]) {
      count++;
      off += Math.abs(at[i * 4 + 3] - truth[i]) / 255;
    }
    // Pale: seen on the opposite of the ground, it differs from the truth towards the ground by a fifth and more.
    if (!near[i] || at[i * 4 + 3] < 26 || truth[i] === 0) continue;
    edge++;
    const a = at[i * 4 + 3] / 255;
    let [towards, room] = [0, 0];
    for (let k = 0; k < 3; k++) {
      const ofArt = art[i * 4 + k];
      towards += a * (at[i * 4 + k] - ofArt) * (ground[k] - ofArt);
      room += (ground[k] - ofArt) ** 2;
    }
    if (room > 900 && towards / room > 0.2) pale++;
  }
  return {
    band: (100 * off) / count,
    pale: (100 * pale) / Math.max(1, edge),
    dust: islandsOff(at, truth, width),
    checks: new Map(found.checks.map((c) => [c.id, c])),
    result,
  };
}

/** Patches of a tenth and more cover that lie apart from all of the art. */
function islandsOff(data: Uint8Array, truth: Uint8Array, width: number): number {
  const seen = new Uint8Array(truth.length);
  let islands = 0;
  for (let start = 0; start < truth.length; start++) {
    if (seen[start] || data[start * 4 + 3] < 26) continue;
    const stack = [start];
    seen[start] = 1;
    let real = false;
    while (stack.length > 0) {
      const i = stack.pop()!;
      if (truth[i] > 12) real = true;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
        if (j < 0 || j >= truth.length || seen[j] || data[j * 4 + 3] < 26) continue;
        seen[j] = 1;
        stack.push(j);
      }
    }
    if (!real) islands++;
  }
  return islands;
}
