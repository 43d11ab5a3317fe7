import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { LIFT_NAMES, liftPicture, SHADED_NAMES } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureLift, type LiftRow } from "./liftTable";

/*
 * Prints how near lifted ink comes to the truth. `npm run lifts shaded`: under hands' shadows, folded, curled. With a folder
 * as the last argument, pictures and results are left there.
 */
const ASKED = { band: 0.8, navy: 4 };

async function main(): Promise<void> {
  const shaded = process.argv[2] === "shaded";
  const folder = process.argv[shaded ? 3 : 2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| ink on paper | band, % | on navy, of 255 | solid lost, % | haze, % | bare defaults, band % | plain way, band % / navy |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: | ---: |");
  const rows: { unseen: boolean; read: LiftRow; bare: LiftRow; plain: LiftRow }[] = [];
  for (const name of shaded ? SHADED_NAMES : LIFT_NAMES) {
    const known = await liftPicture(name);
    const [read, bare, plain] = [
      await measureLift(known, "read"),
      await measureLift(known, "bare"),
      await measureLift(known, "plain"),
    ];
    rows.push({ unseen: known.unseen, read, bare, plain });
    console.log(
      `| ${known.unseen ? "*" : ""}${name} | ${read.band.toFixed(2)} | ${read.navy.toFixed(1)} | ${read.lost.toFixed(2)} | ${read.haze.toFixed(3)} | ${bare.band.toFixed(2)} | ${plain.band.toFixed(2)} / ${plain.navy.toFixed(1)} |`,
    );
    if (!folder) continue;
    const file = name.replaceAll(/[^a-z]+/g, "-");
    writeFileSync(join(folder, `${file}.png`), runToEnd(writeRgbaPng(known.picture, 254)));
    writeFileSync(join(folder, `${file}-lifted.png`), runToEnd(writeRgbaPng(read.result, 254)));
  }
  const mean = (of: typeof rows, value: (row: (typeof rows)[number]) => number) =>
    of.reduce((s, r) => s + value(r), 0) / of.length;
  for (const [what, of] of [
    ["seen while rules were set", rows.filter((r) => !r.unseen)],
    ["* no rule was set by", rows.filter((r) => r.unseen)],
  ] as const)
    console.log(
      `| mean of ${of.length} ${what} | ${mean(of, (r) => r.read.band).toFixed(2)} | ${mean(of, (r) => r.read.navy).toFixed(1)} | ${mean(of, (r) => r.read.lost).toFixed(2)} | ${mean(of, (r) => r.read.haze).toFixed(3)} | ${mean(of, (r) => r.bare.band).toFixed(2)} | ${mean(of, (r) => r.plain.band).toFixed(2)} / ${mean(of, (r) => r.plain.navy).toFixed(1)} |`,
    );
  const [band, navy] = [mean(rows, (r) => r.read.band), mean(rows, (r) => r.read.navy)];
  console.log(`\nmean ${band.toFixed(2)} % and ${navy.toFixed(1)}; asked: ${ASKED.band} % and ${ASKED.navy}`);
  process.exitCode = band <= ASKED.band && navy <= ASKED.navy ? 0 : 1;
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
