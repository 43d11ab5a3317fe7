import { writeBitsPng } from "@hardline/core/format/png";
import { passNames } from "@hardline/core/machine/job";
import { machineKindOf, readMachine, USUAL_MACHINES, type Machine } from "@hardline/core/machine/machine";
import { planRun } from "@hardline/core/machine/plan";
import { runnable } from "@hardline/core/machine/runnable";
import { runWish } from "@hardline/core/machine/wish";
import { drive, runToEnd } from "@hardline/core/maths/work";
import { longFingerprint } from "@hardline/core/raster/fingerprint";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { gridOf, simulate } from "@hardline/core/simulator/simulate";
import { shippedFonts } from "@hardline/fonts";
import { takeIn } from "@hardline/intake";
import { argumentsOf, CallError, deliverInto, parseJson, progressOf, read, runCommand } from "./command";

const USAGE = `usage: npm run -s burn -- ROUTE.json ARTWORK --machine ${USUAL_MACHINES.map((m) => m.key).join("|")}|MACHINE.json --out DIR [--progress]`;

/** Makes the program of a route for a machine, runs it on the simulated one, and writes what both say. */
runCommand(async () => {
  const { files, out, showProgress, machine: named } = argumentsOf(USAGE, 2, ["machine"]);
  const [routePath, artworkPath] = files;
  const machine = await machineNamed(named);
  const route = readRoute(parseJson("route file", routePath, await read(routePath, "route file")));
  const artwork = await takeIn(await read(artworkPath, "artwork"));
  const progress = progressOf(showProgress);
  const job = await runnable(new Runner({ fonts: shippedFonts }), route, artwork, { progress });
  // A film printer takes one plate at a time: the first, unless there is but one.
  const wish = runWish.parse(machineKindOf(machine).onePlate ? { passes: passNames(job).slice(0, 1) } : {});
  const plan = await drive(planRun(job, machine, wish), { progress: (s) => progress(s, "plan") });
  const { program } = plan;
  const grids = job.bitmaps.map((b) => gridOf(b, program.at, machine));
  const made = await drive(simulate(program.moves, machine, grids), { progress: (s) => progress(s, "run") });
  if (showProgress) process.stderr.write("\n");
  const report = {
    machine: machine.key,
    program: { bytes: program.bytes.length, sha256: runToEnd(longFingerprint(program.bytes)) },
    atMm: program.at,
    travelsMm: plan.travels,
    cornersSeconds: plan.cornersSeconds,
    savedTravelMm: plan.savedMm,
    seconds: { estimated: plan.seconds, simulated: made.seconds },
    passes: program.passes.map((pass) => ({
      ...pass,
      seconds: {
        estimated: plan.passes.find((p) => p.name === pass.name)?.seconds,
        simulated: made.passes.find((p) => p.name === pass.name)?.seconds,
      },
    })),
  };
  await deliverInto(out, `burn.${program.extension}`, program.bytes);
  await deliverInto(out, "burn.json", new TextEncoder().encode(`${JSON.stringify(report, null, 2)}\n`));
  if (machineKindOf(machine).takes.rows)
    for (const [k, { grid, bits }] of made.dots.entries()) {
      const name = job.bitmaps.length > 1 ? `burned-${job.bitmaps[k].name}.png` : "burned.png";
      await deliverInto(out, name, runToEnd(writeBitsPng(bits, grid.dotsPerInch)));
    }
});

/** One of the usual machines by its key, or a machine's own file. */
async function machineNamed(named: string): Promise<Machine> {
  const usual = USUAL_MACHINES.find((m) => m.key === named);
  if (usual) return usual;
  if (!named.endsWith(".json"))
    throw new CallError(
      `machine: is "${named}"; allowed: ${USUAL_MACHINES.map((m) => m.key).join(", ")}, or a file`,
    );
  return readMachine(parseJson("machine file", named, await read(named, "machine file")));
}
