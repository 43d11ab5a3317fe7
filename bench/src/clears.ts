import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { DEMO_CLEARS, measureClear } from "./clearTable";

/* Prints how near the demo's artworks come to the truth when cleared. With a folder as argument, results are left there. */
const ASKED = 0.2;

async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| artwork | actions | mean cover error, % | wrong side of a half, % | left where nothing is, % | rim, % of edge | stray islands | faint tint, % |",
  );
  console.log("| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: |");
  let over = 0;
  for (const known of DEMO_CLEARS) {
    const { mean, wrong, left, checks, result } = await measureClear(known);
    if (wrong > ASKED) over++;
    const value = (id: string): number => checks.find((c) => c.id === id)!.value;
    console.log(
      `| ${known.name} | ${known.actions} | ${mean.toFixed(3)} | ${wrong.toFixed(3)} | ${left.toFixed(3)} | ${value("edgeRim")} | ${value("strayIslands")} | ${value("faintTint")} |`,
    );
    if (folder)
      writeFileSync(
        join(folder, `${known.name.replaceAll(/[^a-z]+/g, "-")}.png`),
        runToEnd(writeRgbaPng(result, 254)),
      );
  }
  console.log(
    `\n${DEMO_CLEARS.length - over} of ${DEMO_CLEARS.length} with at most ${ASKED} % on the wrong side`,
  );
  process.exitCode = over > 0 ? 1 : 0;
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
