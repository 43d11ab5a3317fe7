import "reflect-metadata";
import { createApp } from "./createApp";
import { log } from "./http/log";
import { Settings } from "./settings";

/** Starts the program in its role: server, worker, or both (see --role). */
async function main(): Promise<void> {
  const app = await createApp();
  const { port, host, role } = app.get(Settings);
  if (role === "worker") await app.init();
  else await app.listen(port, host);
  process.stdout.write(role === "worker" ? "worker ready\n" : `listening on ${await app.getUrl()}\n`);
}

main().catch((error: unknown) => {
  log.fatal({ err: error }, "could not start");
  process.exit(1);
});
