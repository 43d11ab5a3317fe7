import { writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { LOSS_PICTURES, lossPicture } from "@hardline/demo";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { measureLoss, WAYS } from "./lossTable";

/* Prints whether the check for art that was lost tells results that lost some, and leaves those alone that did not. */
/** From so many pixels on a part is lost; of fewer than that nothing is. What lies between is either. */
const [LOST, WHOLE] = [30, 8];

async function main(): Promise<void> {
  const folder = process.argv[2];
  if (folder) mkdirSync(folder, { recursive: true });
  console.log("| art near the ground's colour | cleared | largest lost part, px | check: parts |");
  console.log("| --- | --- | ---: | ---: |");
  const counts = { seen: [0, 0, 0, 0], unseen: [0, 0, 0, 0] };
  for (const wanted of LOSS_PICTURES) {
    const known = await lossPicture(wanted);
    for (const way of WAYS) {
      const { lost, check, result } = await measureLoss(known, way);
      const told = check.level !== "fine";
      const own = counts[known.unseen ? "unseen" : "seen"];
      if (lost >= LOST) own[told ? 0 : 1]++;
      if (lost < WHOLE) own[told ? 2 : 3]++;
      const wrong = (lost >= LOST && !told) || (lost < WHOLE && told);
      console.log(
        `| ${known.unseen ? "*" : ""}${known.name} | ${way} | ${lost} | ${check.value}${wrong ? " wrong" : ""} |`,
      );
      if (!folder) continue;
      const name = `${known.name} ${way}`.replaceAll(/[^a-zA-Z0-9]+/g, "-");
      writeFileSync(join(folder, `${name}.png`), runToEnd(writeRgbaPng(result, 254)));
      writeFileSync(join(folder, `${name}-source.png`), runToEnd(writeRgbaPng(known.picture, 254)));
    }
  }
  for (const [key, [told, missed, wrongly, fine]] of Object.entries(counts))
    console.log(
      `\n${key === "seen" ? "seen while rules were set" : "* no rule was set by"}: ${told} of ${told + missed} that lost a part are told, ${fine} of ${fine + wrongly} that did not are fine`,
    );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
