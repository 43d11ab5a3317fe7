import { takeIn } from "@hardline/intake";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { makePhoneFiles } from "./phoneFiles";

/** Prints how near pictures of phones and scanners are decoded to what another decoder makes of them. */
async function main(): Promise<void> {
  const folder = process.argv[2] ?? mkdtempSync(join(tmpdir(), "hard-line-phones-"));
  console.log("| file | mean, of 255 | most | ms |");
  console.log("| --- | ---: | ---: | ---: |");
  const rows: { unseen: boolean; mean: number }[] = [];
  for (const { name, path, page, other, unseen } of await makePhoneFiles(folder)) {
    const started = performance.now();
    const picture = await (await takeIn(readFileSync(path), { page, box: "crop" })).pixels();
    const ms = performance.now() - started;
    const wanted = await other();
    if (wanted.length !== picture.data.length)
      throw new Error(`${name}: ${picture.data.length} bytes beside ${wanted.length}`);
    let [sum, most] = [0, 0];
    for (let i = 0; i < wanted.length; i += 4) {
      if (Math.max(wanted[i + 3], picture.data[i + 3]) === 0) continue; // what is clear has no colour
      for (let k = i; k < i + 4; k++) {
        const off = Math.abs(wanted[k] - picture.data[k]);
        sum += off;
        most = Math.max(most, off);
      }
    }
    const mean = sum / wanted.length;
    rows.push({ unseen, mean });
    console.log(`| ${unseen ? "*" : ""}${name} | ${mean.toFixed(3)} | ${most} | ${ms.toFixed(0)} |`);
  }
  for (const [what, of] of [
    ["* not looked at while rules were set", rows.filter((r) => r.unseen)],
    ["seen", rows.filter((r) => !r.unseen)],
  ] as const)
    console.log(`\n${what}: ${of.filter((r) => r.mean <= 1).length} of ${of.length} within 1 in the mean`);
  if (!process.argv[2]) rmSync(folder, { recursive: true, force: true });
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
