import { deliver } from "@hardline/core/route/deliver";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { PAGE_BOXES } from "@hardline/contract";
import { fontsWith, shippedFonts } from "@hardline/fonts";
import { FIRST, takeIn, type Part } from "@hardline/intake";
import { photosIn } from "./photos";
import { argumentsOf, CallError, deliverInto, parseJson, progressOf, read, runCommand } from "./command";

const USAGE =
  "usage: npm run -s route -- ROUTE.json ARTWORK --out DIR [--page N] [--box crop|trim|bleed] [--layers A,B] [--fonts DIR] [--photos DIR] [--progress]";

/** Runs a route on an artwork and writes what it hands over. */
runCommand(async () => {
  const { files, out, showProgress, page, box, layers, fonts, photos } = argumentsOf(
    USAGE,
    2,
    [],
    ["page", "box", "layers", "fonts", "photos"],
  );
  const [routePath, artworkPath] = files;
  const route = readRoute(parseJson("route file", routePath, await read(routePath, "route file")));
  const artwork = await takeIn(await read(artworkPath, "artwork"), partOf(page, box, layers));
  const runner = new Runner({
    clock: () => performance.now(),
    fonts: fonts === undefined ? shippedFonts : fontsWith(fonts),
    ...(photos !== undefined && { photos: photosIn(photos) }),
  });
  const progress = progressOf(showProgress);
  await deliver(runner, route, artwork, {
    progress,
    file: ({ name, bytes }) => deliverInto(out, name, bytes),
  });
  if (showProgress) process.stderr.write("\n");
});

/** Which part of the artwork's file is taken: its first page, as it is shown, unless something else is asked for, and which of its layers. */
function partOf(page = String(FIRST.page), box: string = FIRST.box, layers?: string): Part {
  const known = PAGE_BOXES.find((b) => b === box);
  if (!known) throw new CallError(`box is ${box}; allowed: ${PAGE_BOXES.join(", ")}; ${USAGE}`);
  if (!/^[1-9]\d{0,5}$/.test(page))
    throw new CallError(`page is ${page}; allowed: a whole number from 1; ${USAGE}`);
  const drawn = layers?.split(",").map((name) => name.trim());
  return { page: Number(page), box: known, ...(drawn && { layers: drawn.filter(Boolean) }) };
}
