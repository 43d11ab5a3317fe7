import { drive } from "@hardline/core/maths/work";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { arrange, sheetsOf } from "@hardline/core/sheet/arrange";
import { sheetFiles } from "@hardline/core/sheet/files";
import { sheetPiece, type SheetPiece } from "@hardline/core/sheet/piece";
import { readSheet } from "@hardline/core/sheet/sheetFile";
import { shippedFonts } from "@hardline/fonts";
import { takeIn } from "@hardline/intake";
import { dirname, resolve } from "node:path";
import { argumentsOf, deliverInto, parseJson, progressOf, read, runCommand } from "./command";

const USAGE = "usage: npm run -s sheet -- SHEET.json --out DIR [--progress]";

/** Arranges the pieces of a sheet and writes its files. Routes and artworks are named from where the sheet's file is. */
runCommand(async () => {
  const { files, out, showProgress } = argumentsOf(USAGE, 1);
  const [path] = files;
  const sheet = readSheet(parseJson("sheet file", path, await read(path, "sheet file")));
  const beside = (name: string) => resolve(dirname(resolve(path)), name);
  const progress = progressOf(showProgress);
  const runner = new Runner({ fonts: shippedFonts });
  const pieces: SheetPiece[] = [];
  for (const { route: routePath, artwork } of sheet.pieces) {
    const route = readRoute(parseJson("route file", routePath, await read(beside(routePath), "route file")));
    const source = await takeIn(await read(beside(artwork), "artwork"));
    pieces.push(await sheetPiece(runner, route, source, { bleedMm: sheet.bleedMm, progress }));
  }
  const counts = sheet.pieces.map((p) => p.count);
  const found = await drive(arrange(pieces, counts, sheet), { progress: (s) => progress(s, "arrange") });
  if (showProgress) process.stderr.write("\n");
  const sheets = sheetsOf(sheet.name, pieces, counts, sheet, found);
  for await (const { name, bytes } of sheetFiles(sheets, (work) => drive(work)))
    await deliverInto(out, name, bytes);
});
