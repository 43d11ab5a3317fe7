import { boatDrawing } from "@hardline/demo";
import { fitRings } from "@hardline/core/fit/fitRings";
import { runToEnd } from "@hardline/core/maths/work";
import { ringsOf } from "@hardline/core/path/flatten";
import { pathSetOf } from "@hardline/core/path/pathSet";
import { evenOdd } from "@hardline/core/polygon/clip";
import { offset, type Join } from "@hardline/core/polygon/offset";
import { areaOf, type Ring } from "@hardline/core/polygon/rings";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import sharp from "sharp";

/*
 * How true a cut line is, and how long it takes: borders whose exact area is known by a formula, and the tracing of
 * line art, timed as often as the plain loop beside it.
 */

const polygon = (sides: number, radius: number): Ring =>
  Float64Array.from(
    Array.from({ length: sides }, (_, k) => {
      const a = (2 * Math.PI * k) / sides;
      return [radius * Math.cos(a), radius * Math.sin(a)];
    }).flat(),
  );

interface Known {
  readonly name: string;
  readonly rings: Ring[];
  readonly area: number;
  readonly perimeter: number;
  /** Turns of its corners, in radians; none for a circle. */
  readonly turns: readonly number[];
}

const regular = (sides: number, radius: number): Known => ({
  name: `${sides === 360 ? "circle" : `${sides} sides`} of ${radius} mm`,
  rings: [polygon(sides, radius)],
  area: (sides / 2) * radius ** 2 * Math.sin((2 * Math.PI) / sides),
  perimeter: 2 * sides * radius * Math.sin(Math.PI / sides),
  turns: Array.from({ length: sides }, () => (2 * Math.PI) / sides),
});
const right: Known = {
  name: "right triangle 3 : 4 : 5",
  rings: [Float64Array.from([0, 0, 24, 0, 0, 18])],
  area: 216,
  perimeter: 72,
  turns: [Math.PI / 2, Math.PI - Math.atan(18 / 24), Math.PI - Math.atan(24 / 18)],
};

/** Steiner's formula, with what each join puts on a corner that turns by `a`. */
function exactArea({ area, perimeter, turns }: Known, by: number, join: Join): number {
  const corner = {
    round: (a: number) => a / 2,
    mitre: (a: number) => Math.tan(a / 2),
    bevel: (a: number) => Math.sin(a) / 2,
  }[join];
  return area + perimeter * by + by ** 2 * turns.reduce((sum, a) => sum + corner(a), 0);
}

console.log("| border | join | area, mm² | exact | off, % (asked 0.2) |");
console.log("| --- | --- | ---: | ---: | ---: |");
let worst = 0;
for (const shape of [regular(4, 20), regular(3, 15), regular(5, 8), regular(360, 12), right])
  for (const by of [0.3, 2.5])
    for (const join of ["round", "mitre", "bevel"] as const) {
      // As it is handed over: fitted with curves.
      const look = { name: "cut", use: "through", colour: 0 } as const;
      const fitted = pathSetOf(look, runToEnd(fitRings(offset(evenOdd(shape.rings), by, join))));
      const found = areaOf(ringsOf(fitted, 0.0005));
      const exact = exactArea(shape, by, join);
      const off = Math.abs(found / exact - 1) * 100;
      worst = Math.max(worst, off);
      console.log(
        `| ${shape.name}, ${by} mm | ${join} | ${found.toFixed(3)} | ${exact.toFixed(3)} | ${off.toFixed(4)} |`,
      );
    }
console.log(`\nWorst: ${worst.toFixed(4)} %\n`);

const MEGAPIXELS = 1e6;
async function times(width: number, stages: readonly object[]): Promise<string> {
  const drawn = sharp(Buffer.from(boatDrawing()), { density: (72 * width) / 1000, limitInputPixels: false })
    .resize(width)
    .flatten({ background: "#ffffff" });
  const { data, info } = await drawn.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const colour = { width: info.width, height: info.height, data: new Uint8Array(data) };
  const facts = { sha256: `${width}`, width: info.width, height: info.height, vector: false };
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "bench" },
    stages: [{ stage: "size", resample: "none", dotsPerInch: 300 }, ...stages],
  });
  let best = Infinity;
  let pieces = 0;
  for (let k = 0; k < 3; k++) {
    const from = performance.now();
    const results = await new Runner().run(route, { facts, pixels: async () => colour });
    best = Math.min(best, performance.now() - from);
    const last = results[results.length - 1];
    if (last.result.kind === "paths")
      pieces = last.result.sets.reduce((n, s) => n + (s.points.length / 2 - s.closed.length) / 3, 0);
  }
  return `${((info.width * info.height) / MEGAPIXELS).toFixed(1)} MP | ${best.toFixed(0)} | ${pieces}`;
}
const main = async (): Promise<void> => {
  const plain = [{ stage: "trace", threshold: "auto" }];
  console.log("| line art | size | whole route, best of three, ms | lines and curves |");
  console.log("| --- | ---: | ---: | ---: |");
  console.log(`| traced (asked 6000 at 16 MP) | ${await times(4870, plain)} |`);
  console.log(`| traced | ${await times(2430, plain)} |`);
  console.log(
    `| centre lines to 2 mm | ${await times(2430, [{ stage: "trace", threshold: "auto", centreMm: 2 }])} |`,
  );
  console.log(`| four tones | ${await times(2430, [{ stage: "trace", tones: 4 }])} |`);
  console.log(
    `| border of 2 mm round the trace | ${await times(2430, [...plain, { stage: "cutLine", from: "trace", offsetMm: 2, smoothMm: 0.5 }])} |`,
  );
};
void main();
