import "reflect-metadata";
import { isAway } from "./database/away";
import { createApp } from "./createApp";
import { log } from "./log/log";
import { PeopleService } from "./people/people.service";
import { endWithParent } from "./processes/endWithParent";
import { Settings } from "./settings";
import { WorkerProcess } from "./workerProcess";

/** Longer than this nobody waits for an end that was asked for. */
const END_MS = 4000;

/** Starts the program in its role: server, worker, or a server with a worker beside it (see --role). */
async function main(): Promise<void> {
  const app = await createApp();
  const { port, host, role } = app.get(Settings);
  if (role === "worker") await app.init();
  else await app.listen(port, host);
  if (role === "both") new WorkerProcess().start();
  const code = role === "worker" ? null : await app.get(PeopleService).firstCode();
  if (code)
    process.stderr.write(`Nobody is there yet. Open the page and make the owner with the code ${code}\n`);
  process.stdout.write(role === "worker" ? "worker ready\n" : `listening on ${await app.getUrl()}\n`);
}

// A query that nobody waits for may fail with its connection; everything else that nobody caught is a fault.
process.on("unhandledRejection", (error) => {
  if (isAway(error)) return log.warn({ err: error }, "the database was away");
  log.fatal({ err: error }, "fault");
  process.exit(1);
});
// A worker beside a server ends with it, however that ends.
process.on("disconnect", () => process.kill(process.pid, "SIGTERM"));
process.channel?.unref(); // listening for that does not keep it alive
if (process.channel) endWithParent();
for (const signal of ["SIGTERM", "SIGINT"] as const)
  process.on(signal, () => setTimeout(() => process.exit(0), END_MS).unref());

main().catch((error: unknown) => {
  log.fatal({ err: error }, "could not start");
  process.exit(1);
});
