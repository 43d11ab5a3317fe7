import { setText } from "@hardline/core/letters/setText";
import { type Job } from "@hardline/core/machine/job";
import { USUAL_MACHINES, type Machine, machineKindOf } from "@hardline/core/machine/machine";
import { planRun } from "@hardline/core/machine/plan";
import { runWish } from "@hardline/core/machine/wish";
import { seeded } from "@hardline/core/maths/seeded";
import { runToEnd } from "@hardline/core/maths/work";
import { rectangleKnots, roundKnots } from "@hardline/core/path/outline";
import { pathSetOf, type KnotPath } from "@hardline/core/path/pathSet";
import { newBits, type Bits } from "@hardline/core/raster/types";
import { gridOf, simulate } from "@hardline/core/simulator/simulate";

/*
 * What a run is said to take before it begins, against what the simulated machine then takes, on ten jobs; and whether
 * what it burned is the bitmap. Exits 1 where a time is off by more than 2 %, or a dot is.
 */
const [laser, knife, printer] = USUAL_MACHINES;

function dots(
  widthMm: number,
  heightMm: number,
  dotsPerInch: number,
  share: (x: number, y: number) => number,
): Bits {
  const chance = seeded(Math.round(widthMm * 31 + dotsPerInch));
  const bits = newBits(
    Math.round((widthMm * dotsPerInch) / 25.4),
    Math.round((heightMm * dotsPerInch) / 25.4),
  );
  for (let y = 0; y < bits.height; y++)
    for (let x = 0; x < bits.width; x++)
      if (chance() < share(x / bits.width, y / bits.height))
        bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  return bits;
}

const jobOf = (
  bits: Bits | null,
  dotsPerInch: number,
  paths: readonly KnotPath[] = [],
  widthMm = 100,
): Job => ({
  ...{ name: "job", widthMm: bits ? (bits.width / dotsPerInch) * 25.4 : widthMm, heightMm: 100 },
  bitmaps: bits ? [{ name: "bitmap", bits, dotsPerInch }] : [],
  sets: paths.length > 0 ? [pathSetOf({ name: "cut", use: "through", colour: 0 }, paths)] : [],
});
const round = (x: number, y: number) => (Math.hypot(x - 0.5, y - 0.5) < 0.5 ? 0.4 : 0);
const many = (count: number, path: (x: number, y: number) => KnotPath): KnotPath[] =>
  Array.from({ length: count }, (_, k) => path(5 + 40 * (k % 12), 5 + 36 * Math.floor(k / 12)));

const JOBS: readonly (readonly [string, Machine, Job])[] = [
  [
    "coaster, 90 mm, scattered",
    laser,
    jobOf(
      dots(90, 60, 254, (x) => x),
      254,
    ),
  ],
  ["round piece, 80 mm", laser, jobOf(dots(80, 80, 254, round), 254)],
  ["medal, 40 mm at 508", laser, jobOf(dots(40, 40, 508, round), 508)],
  [
    "lone dots",
    laser,
    jobOf(
      dots(120, 40, 254, () => 0.003),
      254,
    ),
  ],
  [
    "solid bar",
    laser,
    jobOf(
      dots(60, 10, 254, () => 1),
      254,
    ),
  ],
  [
    "120 tags cut",
    laser,
    jobOf(
      null,
      254,
      many(120, (x, y) => ({ knots: roundKnots(x, y, 30, 28), closed: true })),
      500,
    ),
  ],
  [
    "engraved and cut",
    laser,
    jobOf(dots(60, 60, 254, round), 254, [{ knots: roundKnots(0, 0, 60, 60), closed: true }]),
  ],
  [
    "60 stickers",
    knife,
    jobOf(
      null,
      254,
      many(60, (x, y) => ({ knots: rectangleKnots(x, y, 30, 24, 4, 4), closed: true })),
      500,
    ),
  ],
  ["lettering", knife, jobOf(null, 254, setText("Tern Street Harbour", 18, 5, 40).paths, 400)],
  [
    "film, 200 mm at 720",
    printer,
    jobOf(
      dots(200, 90, 720, (x, y) => x * y),
      720,
    ),
  ],
];

let wrong = 0;
console.log("job                          machine        estimated s   took s    off    burned");
for (const [name, machine, job] of JOBS) {
  const plan = runToEnd(planRun(job, machine, runWish.parse({})));
  const grids = machineKindOf(machine).takes.rows
    ? job.bitmaps.map((b) => gridOf(b, plan.program.at, machine))
    : [];
  const made = runToEnd(simulate(plan.program.moves, machine, grids));
  const off = Math.abs(plan.seconds / made.seconds - 1);
  const equal = made.dots.every(
    (d, k) => d.twice === 0 && Buffer.from(d.bits.data).equals(Buffer.from(job.bitmaps[k].bits.data)),
  );
  if (off > 0.02 || !equal) wrong++;
  console.log(
    `${name.padEnd(29)}${machine.key.padEnd(14)}${plan.seconds.toFixed(1).padStart(12)}${made.seconds.toFixed(1).padStart(9)}${(100 * off).toFixed(2).padStart(6)} %  ${made.dots.length === 0 ? "–" : equal ? "dot for dot" : "NOT EQUAL"}`,
  );
}
process.exitCode = wrong > 0 ? 1 : 0;
