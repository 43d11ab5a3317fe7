import { batchOf, ended, Workers } from "../batchOf";
import { newDatabase, startProgram } from "../harness";
import { chance, printTable, sleep } from "./table";

// Usage: npm run batch [-- lost throughput]
/*
 * A house route over many pictures: on twenty workers, of which one after another is killed; and how much faster more
 * workers are. It fails where a picture is lost, done twice, or failed.
 */
const next = chance(9);
/** Of each picture: some tenths of a second of work. */
const WIDTH_MM = 70;
let faults = 0;

/** Each done once, none lost, while workers die. */
async function lost(): Promise<void> {
  const base = await newDatabase();
  const program = await startProgram(base, ["--role=server"], { HARDLINE_LEASE_SECONDS: "2" });
  const workers = new Workers(base);
  await workers.start(20);
  const { id } = await batchOf(program.url, 500, "Five hundred", WIDTH_MM);
  let over = false;
  const killing = (async () => {
    while (!over) {
      await sleep(300 + next() * 900);
      if (!over) await workers.killOne(next());
    }
  })();
  const { batch, items } = await ended(program.url, id);
  over = true;
  await killing;
  await workers.stop();
  await program.stop();
  const again = items.filter((i) => i.attempts > 1).length;
  const once = items.filter((i) => i.state === "done" && i.files === 5).length;
  faults += 500 - once + batch.counts.failed;
  printTable(
    "Five hundred pictures, workers killed at random",
    ["pictures", "workers", "killed", "done, files whole", "failed", "taken again", "seconds"],
    [[500, 20, workers.kills, once, batch.counts.failed, again, Math.round(batch.seconds ?? 0)].map(String)],
  );
}

/** Pictures a second on one, two and four workers. */
async function throughput(): Promise<void> {
  const rows: string[][] = [];
  let one = 0;
  for (const count of [1, 2, 4]) {
    const base = await newDatabase();
    const program = await startProgram(base, ["--role=server"]);
    const workers = new Workers(base);
    await workers.start(count);
    const { id } = await batchOf(program.url, 120, "Throughput", WIDTH_MM);
    const began = performance.now();
    const { items } = await ended(program.url, id);
    const seconds = (performance.now() - began) / 1000;
    await workers.stop();
    await program.stop();
    const done = items.filter((i) => i.state === "done").length;
    if (count === 1) one = done / seconds;
    rows.push([
      String(count),
      String(done),
      seconds.toFixed(1),
      (done / seconds).toFixed(1),
      (done / seconds / one).toFixed(2),
    ]);
    if (done !== 120) faults++;
  }
  printTable("Throughput", ["workers", "done", "seconds", "a second", "times one worker"], rows);
}

void (async () => {
  const wanted = process.argv.slice(2);
  for (const [name, part] of Object.entries({ lost, throughput }))
    if (wanted.length === 0 || wanted.includes(name)) await part();
  process.exitCode = faults > 0 ? 1 : 0;
})();
