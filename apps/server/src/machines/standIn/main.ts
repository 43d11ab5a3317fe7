import { machineSchema, USUAL_MACHINES } from "@hardline/core/machine/machine";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { Floor } from "./floor";
import { StandIn } from "./standIn";

/** Runs one stand-in: `--machine=KEY` of the usual ones, or a machine's own file. */
async function main(): Promise<void> {
  const option = (name: string, otherwise: string): string =>
    process.argv.find((a) => a.startsWith(`--${name}=`))?.slice(name.length + 3) ?? otherwise;
  const named = option("machine", "");
  const usual = USUAL_MACHINES.find((m) => m.key === named);
  const machine = usual ?? machineSchema.parse(JSON.parse(readFileSync(named, "utf8")));
  const folder = option("folder", join(__dirname, "../../../../../.local/machines"));
  const standIn = new StandIn(machine, folder, Number(option("pace", "1")));
  const port = await standIn.listen(Number(option("port", "0")));
  const floor = await new Floor(standIn).listen(Number(option("floor", "0")));
  process.stdout.write(`${machine.key} listens on ${port}, floor ${floor}\n`);
}

for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, () => process.exit(0));
main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
