import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { SOFT_PICTURES, softPicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureSoft } from "./softTable";

/* Prints how near soft subjects before a plain wall, cleared by picks, come to the truth, beside a plain way. */
async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log("| soft subject before a wall | band, % | plain way, % |");
  console.log("| --- | ---: | ---: |");
  const sums = new Map<string, number[][]>();
  for (const wanted of SOFT_PICTURES) {
    const known = await softPicture(wanted);
    const { band, plain, result } = await measureSoft(known);
    console.log(`| ${known.unseen ? "*" : ""}${known.name} | ${band.toFixed(2)} | ${plain.toFixed(2)} |`);
    const side = known.unseen ? "* no rule was set by" : "seen while rules were set";
    for (const key of [side, `${known.unseen ? "* " : ""}${known.family}`])
      sums.set(key, [...(sums.get(key) ?? []), [band, plain]]);
    if (!folder) continue;
    writeFileSync(join(folder, `${known.name}.png`), runToEnd(writeRgbaPng(known.picture, 254)));
    writeFileSync(join(folder, `${known.name} cleared.png`), runToEnd(writeRgbaPng(result, 254)));
  }
  for (const [key, rows] of sums) {
    const mean = (k: number) => (rows.reduce((sum, row) => sum + row[k], 0) / rows.length).toFixed(2);
    console.log(`| mean of ${rows.length}, ${key} | ${mean(0)} | ${mean(1)} |`);
  }
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
