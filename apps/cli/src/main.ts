import { deliver } from "@hardline/core/route/deliver";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { takeIn } from "@hardline/intake";
import { argumentsOf, deliverInto, parseJson, progressOf, read, runCommand } from "./command";

const USAGE = "usage: npm run -s route -- ROUTE.json ARTWORK --out DIR [--progress]";

/** Runs a route on an artwork and writes what it hands over. */
runCommand(async () => {
  const { files, out, showProgress } = argumentsOf(USAGE, 2);
  const [routePath, artworkPath] = files;
  const route = readRoute(parseJson("route file", routePath, await read(routePath, "route file")));
  const artwork = await takeIn(await read(artworkPath, "artwork"));
  const runner = new Runner({ clock: () => performance.now() });
  const progress = progressOf(showProgress);
  await deliver(runner, route, artwork, {
    progress,
    file: ({ name, bytes }) => deliverInto(out, name, bytes),
  });
  if (showProgress) process.stderr.write("\n");
});
