import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { isUnseenScene, SCENE_NAMES, scenePicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureCutOut } from "./cutOutTable";
import { measureScene, type SceneRow } from "./sceneTable";

/* Prints how near the cut-out comes to the truth on many-coloured subjects before textured grounds, beside a plain way. */
async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log(
    "| scene, six scribbles | band, % | plain way, % | subject lost, % | ground left, % | with two strokes more, % |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
  const rows: (SceneRow & { unseen: boolean })[] = [];
  for (const name of SCENE_NAMES) {
    const known = await scenePicture(name);
    const row = { ...measureScene(known), unseen: isUnseenScene(name) };
    rows.push(row);
    console.log(
      `| ${row.unseen ? "*" : ""}${name} | ${row.band.toFixed(1)} | ${row.plain.toFixed(1)} | ${row.lost.toFixed(2)} | ${row.stayed.toFixed(2)} | ${row.mended.toFixed(1)} |`,
    );
    if (!folder) continue;
    writeFileSync(join(folder, `${name}.png`), runToEnd(writeRgbaPng(known.picture, 254)));
    writeFileSync(join(folder, `${name} cut.png`), runToEnd(writeRgbaPng(measureCutOut(known).result, 254)));
  }
  for (const [what, of] of [
    ["seen while rules were set", rows.filter((r) => !r.unseen)],
    ["* no rule was set by", rows.filter((r) => r.unseen)],
  ] as const) {
    const mean = (value: (r: SceneRow) => number) =>
      (of.reduce((s, r) => s + value(r), 0) / of.length).toFixed(2);
    console.log(
      `| mean of ${of.length} ${what} | ${mean((r) => r.band)} | ${mean((r) => r.plain)} | ${mean((r) => r.lost)} | ${mean((r) => r.stayed)} | ${mean((r) => r.mended)} |`,
    );
  }
  console.log(
    `\nnot worse than the plain way: ${rows.filter((r) => r.band <= r.plain + 0.3).length} of ${rows.length}`,
  );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
