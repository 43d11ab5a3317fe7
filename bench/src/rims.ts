import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { RIM_PICTURES, rimPicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureRim } from "./rimTable";

/* Prints how near cleared rims come to the truth, and whether the checks tell those that do not. */
const PALE = 5;

async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| art on a plain ground | band, % | edge still pale, % | edge check, % | dust | stray islands told |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
  const sums = new Map<string, { count: number; band: number }>();
  const told = { bad: 0, badTold: 0, good: 0, goodTold: 0, dusty: 0, dustyTold: 0, clean: 0, cleanTold: 0 };
  for (const wanted of RIM_PICTURES) {
    const known = await rimPicture(wanted);
    const { band, pale, dust, checks, result } = await measureRim(known);
    const [rim, islands] = [checks.get("edgeRim")!, checks.get("strayIslands")!];
    for (const key of [
      known.family,
      known.unseen ? "* no rule was set by" : "seen while rules were set",
      "all",
    ]) {
      const sum = sums.get(key) ?? { count: 0, band: 0 };
      sums.set(key, { count: sum.count + 1, band: sum.band + band });
    }
    const count = (bad: boolean, isTold: boolean, names: readonly (keyof typeof told)[]) => {
      told[names[bad ? 0 : 2]]++;
      if (bad === isTold) told[names[bad ? 1 : 3]]++;
    };
    count(pale > PALE, rim.level !== "fine", ["bad", "badTold", "good", "goodTold"]);
    count(dust > 0, islands.level !== "fine", ["dusty", "dustyTold", "clean", "cleanTold"]);
    console.log(
      `| ${known.unseen ? "*" : ""}${known.name} | ${band.toFixed(2)} | ${pale.toFixed(1)} | ${rim.value} | ${dust} | ${islands.value} |`,
    );
    if (folder)
      writeFileSync(
        join(folder, `${known.name.replaceAll(/[^a-zA-Z0-9]+/g, "-")}.png`),
        runToEnd(writeRgbaPng(result, 254)),
      );
  }
  for (const [key, { count, band }] of sums)
    console.log(`| mean of ${count}, ${key} | ${(band / count).toFixed(2)} | | | | |`);
  console.log(
    `\nedge check: ${told.badTold} of ${told.bad} pale rims told, ${told.goodTold} of ${told.good} good ones fine`,
  );
  console.log(
    `stray islands: ${told.dustyTold} of ${told.dusty} with dust told, ${told.cleanTold} of ${told.clean} clean ones fine`,
  );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
