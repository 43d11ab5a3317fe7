import { readArtwork } from "@hardline/core/reading/reading";
import { KIND_PICTURES, MORE_PICTURES, pixelsOf, UNSEEN_PICTURES, type KindPicture } from "@hardline/demo";

/* Prints what is read of pictures whose kind is known. */
const ASKED = 95;

async function main(): Promise<void> {
  const known = await table([...KIND_PICTURES, ...MORE_PICTURES]);
  console.log("\nPictures that no rule was set by:\n");
  await table(UNSEEN_PICTURES);
  process.exitCode = known < ASKED ? 1 : 0;
}

/** Prints a line for each picture; returns how many were read as their kind, in percent. */
async function table(pictures: readonly KindPicture[]): Promise<number> {
  console.log("| picture | kind | read as | light | blown up | noise | blocks | skew | ms |");
  console.log("| --- | --- | --- | --- | ---: | ---: | ---: | ---: | ---: |");
  const right = { kind: 0, light: 0, lights: 0, enlarged: 0, skew: 0, skews: 0 };
  for (const known of pictures) {
    const picture = await pixelsOf(await known.make());
    const started = performance.now();
    const read = readArtwork(picture, { width: picture.width, height: picture.height, vector: false });
    const ms = performance.now() - started;
    const kind = read.kind === known.kind;
    const enlarged = near(read.enlarged, known.enlarged ?? 1);
    if (kind) right.kind++;
    if (enlarged) right.enlarged++;
    if (known.light) {
      right.lights++;
      if (read.light === known.light) right.light++;
    }
    if (known.skew !== undefined) {
      right.skews++;
      if (read.skew !== null && Math.abs(read.skew - known.skew) <= 0.5) right.skew++;
    }
    console.log(
      `| ${known.name} | ${known.kind} | ${read.kind}${kind ? "" : " (wrong)"} | ${read.light}${known.light && known.light !== read.light ? " (wrong)" : ""} | ${read.enlarged}${enlarged ? "" : " (wrong)"} | ${read.noise} | ${read.blockiness} | ${read.skew ?? ""} | ${ms.toFixed(0)} |`,
    );
    if (process.argv.includes("--figures"))
      console.log(JSON.stringify(read.figures), JSON.stringify(read.ground));
  }
  const count = pictures.length;
  const percent = (100 * right.kind) / count;
  console.log(`\nkind right: ${right.kind} of ${count} = ${percent.toFixed(1)} % (asked: ${ASKED} or more)`);
  console.log(
    `light right: ${right.light} of ${right.lights}; blown up right: ${right.enlarged} of ${count}; skew within half a degree: ${right.skew} of ${right.skews}`,
  );
  return percent;
}

/** A factor is as good as told when it is the next one of the ladder at most. */
const near = (read: number, true_: number): boolean =>
  true_ === 1 ? read === 1 : read > 1 && read / true_ <= 1.51 && true_ / read <= 1.51;

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
