import { type BatchView } from "@hardline/contract";
import { unzipSync } from "fflate";
import { batchOf, ended, Workers } from "../../../e2e/src/batchOf";
import { ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
let workers: Workers;

beforeAll(async () => {
  const base = await newDatabase();
  program = await startProgram(base, ["--role=server"], { HARDLINE_LEASE_SECONDS: "2" });
  workers = new Workers(base);
});
afterAll(async () => {
  await workers?.stop();
  await program?.stop();
});

test("twenty pictures on three workers, one of them killed: each done once, none lost, all in one archive", async () => {
  const { id } = await batchOf(program.url, 20, "Twenty");
  await workers.start(3);
  for (const at of [0.1]) {
    await new Promise((r) => setTimeout(r, 400));
    await workers.killOne(at);
  }
  const { batch, items } = await ended(program.url, id);
  expect(batch.counts).toEqual({ done: 20, failed: 0, running: 0, stopped: 0, waiting: 0 });
  expect(items.every((i) => i.files === 5)).toBe(true);
  const zip = unzipSync(
    new Uint8Array(await (await fetch(`${program.url}/api/batches/${id}/zip`)).arrayBuffer()),
  );
  const names = Object.keys(zip);
  expect(names).toHaveLength(100);
  expect(names.filter((n) => n.endsWith("bitmap.png"))).toHaveLength(20);
});

test("stopped and gone on with; lines of text as paths, a file a person; what fails is told, the rest is done", async () => {
  const house = (await ask<{ id: string }[]>(`${program.url}/api/house-routes`))[0];
  const names = ["Ada Larkhill", "Bram Öakes", "Cárys"].map((name) => ({ name, text: name }));
  await expect(
    ask(`${program.url}/api/batches`, "POST", { name: "Empty", houseRouteId: house.id, items: [] }),
  ).rejects.toThrow(/items/);
  await expect(
    ask(`${program.url}/api/batches`, "POST", { name: "None", houseRouteId: "999", items: names }),
  ).rejects.toThrow("There is no house route 999");
  const items = [...names, { name: "gone", artworkId: "999999" }];
  const made = await ask<BatchView>(`${program.url}/api/batches`, "POST", {
    name: "Crew",
    houseRouteId: house.id,
    items,
  });
  await ask(`${program.url}/api/batches/${made.id}/stop`, "POST");
  const stopped = await ended(program.url, made.id);
  expect(stopped.batch.counts.stopped + stopped.batch.counts.done + stopped.batch.counts.failed).toBe(4);
  await ask(`${program.url}/api/batches/${made.id}/resume`, "POST");
  const { items: done } = await ended(program.url, made.id);
  expect(done.map((i) => i.state)).toEqual(["done", "done", "done", "failed"]);
  expect(done[3].error).toMatch(/no artwork 999999/i);
  const zip = unzipSync(
    new Uint8Array(await (await fetch(`${program.url}/api/batches/${made.id}/zip`)).arrayBuffer()),
  );
  expect(Object.keys(zip)).toContain("Bram-O-akes-bitmap.png");
});
