import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { CUT_OUT_NAMES, cutOutPicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureCutOut } from "./cutOutTable";

/* Prints how near the cut-out comes to the truth. With a folder as argument, pictures and results are left there. */
const ASKED = 2;

async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| picture, six scribbles | mean cover error in the band, % | where part covered, % | band, % of picture | ms |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: |");
  const errors: number[] = [];
  const missed: string[] = [];
  for (const name of CUT_OUT_NAMES) {
    const known = await cutOutPicture(name);
    const row = measureCutOut(known);
    errors.push(row.band);
    if (row.band > ASKED) missed.push(`${name}${known.hard ? ` (${known.hard})` : ""}`);
    console.log(
      `| ${name} | ${row.band.toFixed(2)} | ${row.soft.toFixed(2)} | ${row.share.toFixed(0)} | ${row.ms.toFixed(0)} |`,
    );
    if (!folder) continue;
    const file = name.replaceAll(/[^a-z]+/g, "-");
    writeFileSync(join(folder, `${file}.png`), runToEnd(writeRgbaPng(known.picture, 254)));
    writeFileSync(join(folder, `${file}-cut.png`), runToEnd(writeRgbaPng(row.result, 254)));
  }
  const within = errors.length - missed.length;
  console.log(
    `| mean of ${errors.length} | ${(errors.reduce((a, b) => a + b, 0) / errors.length).toFixed(2)} | | | |`,
  );
  console.log(`\n${within} of ${errors.length} within ${ASKED} %; asked: 12 or more`);
  if (missed.length > 0) console.log(`not within: ${missed.join("; ")}`);
  process.exitCode = within < 12 ? 1 : 0;
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
