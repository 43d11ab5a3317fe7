import { type ListName, type ListsChanged, type TicketView } from "@hardline/contract";
import { once } from "node:events";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

const running: Program[] = [];
async function start(base: string): Promise<Program> {
  const program = await startProgram(base, ["--role=server"]);
  running.push(program);
  return program;
}
const open: AbortController[] = [];
afterEach(async () => {
  for (const end of open.splice(0)) end.abort();
  await Promise.all(running.splice(0).map((program) => program.stop()));
});
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

const picture = () =>
  sharp({ create: { width: 20, height: 10, channels: 3, background: "#808080" } })
    .png()
    .toBuffer();

/** Whatever a server tells of its lists, as it comes. */
async function listening({ url }: Program): Promise<ListName[][]> {
  const words: ListName[][] = [];
  const end = new AbortController();
  open.push(end);
  const answer = await fetch(`${url}/api/changes`, { signal: end.signal });
  expect(answer.headers.get("content-type")).toMatch(/text\/event-stream/);
  const read = async () => {
    let text = "";
    for await (const part of answer.body!) {
      text += Buffer.from(part).toString();
      const whole = text.split("\n\n");
      text = whole.pop()!;
      for (const event of whole) {
        const data = /^data: (.*)$/m.exec(event)?.[1];
        if (data) words.push([...(JSON.parse(data) as ListsChanged).lists]);
      }
    }
  };
  read().catch(() => undefined); // it was ended
  return words;
}
const heard = async (words: ListName[][], list: ListName) => {
  for (let k = 0; k < 100 && !words.flat().includes(list); k++) await sleep(50);
  expect(words.flat()).toContain(list);
};

test("a change made through one server is told by the other, by the list it is in", async () => {
  const base = await newDatabase();
  const [one, other] = [await start(base), await start(base)];
  const words = await listening(other);
  const { ticket } = await addTicket(one.url, await picture(), "a.png", [{ stage: "size", widthMm: 20 }]);
  await heard(words, "tickets");
  // What was done stands in the journal.
  expect(words.flat().filter((list) => list !== "tickets" && list !== "journal")).toEqual([]);
  await ask(`${one.url}/api/sheets`, "POST", { name: "S", body: { stock: { widthMm: 200, heightMm: 100 } } });
  await heard(words, "sheets");
  await sleep(1200);
  words.length = 0;
  await ask<TicketView>(`${one.url}/api/tickets/${ticket.id}`);
  await sleep(1200);
  expect(words).toEqual([]); // looking changes nothing
});

test("many changes at once are told in few words, and the last of them too", async () => {
  const base = await newDatabase();
  const server = await start(base);
  const { ticket } = await addTicket(server.url, await picture(), "a.png", [{ stage: "size", widthMm: 20 }]);
  const words = await listening(server);
  await sleep(1500);
  words.length = 0;
  const began = performance.now();
  for (let k = 0; k < 60; k++)
    await ask(`${server.url}/api/tickets/${ticket.id}`, "PATCH", { note: `Note ${k}` });
  await sleep(1500);
  const seconds = (performance.now() - began) / 1000;
  expect(words.length).toBeGreaterThan(0);
  expect(words.length).toBeLessThanOrEqual(Math.ceil(seconds) + 1);
  expect(new Set(words.flat())).toEqual(new Set(["tickets", "journal"]));
});

test("a connection that breaks is opened again, everything is told, and a stream keeps no server from ending", async () => {
  const base = await newDatabase();
  const server = await start(base);
  const words = await listening(server);
  await sleep(500);
  words.length = 0;
  const client = new pg.Client(base);
  await client.connect();
  const { rowCount } = await client.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query like 'listen hard_line_changes%'",
  );
  await client.end();
  expect(rowCount).toBe(1);
  await heard(words, "batches");
  await sleep(1100);
  words.length = 0;
  await addTicket(server.url, await picture(), "a.png", [{ stage: "size", widthMm: 20 }]);
  await heard(words, "tickets");
  const ended = once(server.process, "exit");
  server.process.kill("SIGTERM");
  expect(((await ended) as [number])[0]).toBe(0);
}, 30000);
