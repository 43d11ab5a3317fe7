import { USUAL_LIMITS } from "@hardline/core/inspect/limits";
import { toleranceFor } from "@hardline/core/reading/proposal";
import { readArtwork } from "@hardline/core/reading/reading";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { componentsOf } from "@hardline/core/region/components";
import { squaredDistanceTo } from "@hardline/core/region/distance";
import { TRANSLUCENT_PICTURES, translucentPicture, type TranslucentPicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { bandAbout } from "./band";

/* Art through which an even ground is seen: as a pick leaves it, once what the check tells of is brought back as it
 * proposes, and once an operator has pointed at each part. */
async function measured({ picture, alpha }: TranslucentPicture) {
  const { width, height } = picture;
  const facts = { sha256: "", width, height, vector: false };
  const source = { facts, pixels: async () => picture };
  const tolerance = toleranceFor(readArtwork(picture, facts));
  const band = bandAbout(alpha, width, height);
  const cleared = async (ops: readonly object[]) => {
    const stages = [{ stage: "clear", ops, specksMm2: 0.05 }];
    const route = readRoute({
      format: "hard-line-route",
      version: 1,
      name: "x",
      checks: USUAL_LIMITS,
      stages,
    });
    const runner = new Runner();
    const result = as((await runner.run(route, source))[1].result, "picture").colour;
    let [off, count] = [0, 0];
    for (let i = 0; i < alpha.length; i++) {
      if (!band[i]) continue;
      count++;
      off += Math.abs(result.data[4 * i + 3] - alpha[i]) / 255;
    }
    const lost = (await runner.inspect(route, source))[1].checks.find((c) => c.id === "lostArt");
    return { error: (100 * off) / count, result, lost };
  };
  const picked = [
    { op: "pick", at: [0.01, 0.01], tolerance },
    { op: "gaps", tolerance },
  ];
  const first = await cleared(picked);
  const { repair } = first.lost ?? {};
  const proposed = repair ? (await cleared((repair.change as { ops: object[] }).ops)).error : null;
  const pointed = await cleared([...picked, { op: "through", at: placesOf(alpha, width, height) }]);
  return { first: first.error, proposed, pointed: pointed.error, result: pointed.result };
}

/** Where an operator would point: the middle of every part of some size through which the ground is seen. */
function placesOf(alpha: Uint8Array, width: number, height: number): [number, number][] {
  const through = Uint8Array.from(alpha, (a) => (a > 12 && a < 235 ? 1 : 0));
  const outside = through.map((v) => 1 - v);
  const deep = runToEnd(squaredDistanceTo(outside, width, height));
  const rows = (y: number, row: Uint8Array) => row.set(through.subarray(y * width, (y + 1) * width));
  return runToEnd(componentsOf(width, height, rows, 300)).flatMap((c): [number, number][] => {
    let best = -1;
    for (let y = c.y; y < c.y + c.height; y++)
      for (let x = c.x; x < c.x + c.width; x++)
        if (best < 0 || deep[y * width + x] > deep[best]) best = y * width + x;
    return deep[best] < 9
      ? []
      : [[((best % width) + 0.5) / width, (Math.floor(best / width) + 0.5) / height]];
  });
}

async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| art before an even ground | band by a pick, % | brought back as proposed, % | pointed at, % |",
  );
  console.log("| --- | ---: | ---: | ---: |");
  const sums = new Map<string, { count: number; first: number; proposed: number; pointed: number }>();
  for (const wanted of TRANSLUCENT_PICTURES) {
    const known = await translucentPicture(wanted);
    const { first, proposed, pointed, result } = await measured(known);
    for (const key of [known.unseen ? "* no rule was set by" : "seen while rules were set", known.family]) {
      const sum = sums.get(key) ?? { count: 0, first: 0, proposed: 0, pointed: 0 };
      sum.count++;
      sum.first += first;
      sum.proposed += proposed ?? first;
      sum.pointed += pointed;
      sums.set(key, sum);
    }
    console.log(
      `| ${known.unseen ? "*" : ""}${known.name} | ${first.toFixed(1)} | ${proposed?.toFixed(1) ?? "nothing told"} | ${pointed.toFixed(1)} |`,
    );
    if (!folder) continue;
    writeFileSync(join(folder, `${known.name}.png`), runToEnd(writeRgbaPng(result, 254)));
    writeFileSync(join(folder, `${known.name} source.png`), runToEnd(writeRgbaPng(known.picture, 254)));
  }
  for (const [key, { count, ...sum }] of sums)
    console.log(
      `| mean of ${count}, ${key} | ${[sum.first, sum.proposed, sum.pointed].map((v) => (v / count).toFixed(2)).join(" | ")} |`,
    );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
