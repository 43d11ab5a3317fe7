import { lightOf } from "@hardline/core/film/model";
import { separateTonal } from "@hardline/core/film/tonal";
import { lend, roomFor } from "@hardline/core/hands/shareOut";
import { runToEnd, type Work } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { resampleRgba } from "@hardline/core/resample/resample";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { inColour, photographLike } from "./pictures";

/* What a second thread brings to what can be shared out: times by turns with it and without, and whether the bytes are the same. */
const TURNS = 3;
const SIX = [0xffffff, 0xf2c230, 0xc8102e, 0x2f7fc1, 0x2c7a3f, 0x15181d];

interface Job {
  readonly what: string;
  readonly work: (picture: Rgba, turn: number, with_: boolean) => Work<readonly Uint8Array[]>;
}

const JOBS: readonly Job[] = [
  {
    what: "Size: Lanczos-3 in colour, 4096 to 3000",
    *work(picture) {
      return [(yield* resampleRgba(picture, 3000, 3000, "lanczos3")).data];
    },
  },
  {
    what: "Films: amounts of six tonal inks, nothing known of them yet; a quarter of a megapixel of it",
    work: ({ width, height, data }, turn, with_) => {
      const picture = { width, height: height >> 6, data: data.subarray(0, (width * (height >> 6)) << 2) };
      const layers = SIX.map((colour) => ({ colour, light: lightOf(colour), opacity: 0.9 }));
      // Asked for in other words each time, so that it is not known from the time before.
      const given = with_ ? [] : [undefined];
      return separateTonal(picture, { layers, garment: 0x101012 + (turn << 16), given });
    },
  },
];

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

async function main(): Promise<void> {
  const helper = new Worker(join(__dirname, "helper.js"));
  const hands = { join: (job: object) => helper.postMessage(job) };
  lend(hands);
  const { width, height, data } = inColour(photographLike());
  const picture = { width, height, data: new Uint8Array(roomFor(data.length)) };
  // Each channel from another place of it, so that it has as many colours as a photograph.
  for (let i = 0; i < data.length; i++)
    picture.data[i] =
      i % 4 === 3 ? 255 : data[(i + ((i % 4) * width * 600 + (i % 4) * 900) * 4) % data.length];
  console.log(
    "| 16 megapixels, as many colours as a photograph | one thread, ms | two, ms | the same bytes |",
  );
  console.log("| --- | ---: | ---: | --- |");
  for (const { what, work } of JOBS) {
    const [alone, two]: [number[], number[]] = [[], []];
    let same = true;
    for (let turn = 0; turn < TURNS; turn++) {
      const results = [null, hands].map((lent) => {
        lend(lent);
        const start = performance.now();
        const result = runToEnd(work(picture, turn, lent !== null));
        (lent ? two : alone).push(performance.now() - start);
        return result;
      });
      same &&= results[0].every((plane, k) => Buffer.compare(plane, results[1][k]) === 0);
    }
    console.log(
      `| ${what} | ${median(alone).toFixed(0)} | ${median(two).toFixed(0)} | ${same ? "yes" : "NO"} |`,
    );
    if (!same) process.exitCode = 1;
  }
  await helper.terminate();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
