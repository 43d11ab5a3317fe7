import { createHash } from "node:crypto";
import pg from "pg";
import sharp from "sharp";
import { addTicket, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

/*
 * A blob stays as long as anything names it, whatever that is, and goes when the last name is gone. What stays is not
 * looked at again.
 */
let client: pg.Client;
let program: Program;
let ids: { artwork: string; route: string; ticket: string };
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));
const ask = async <T>(sql: string, values: unknown[] = []): Promise<T[]> =>
  (await client.query(sql, values)).rows as T[];
const blobs = async () => (await ask<{ sha256: string }>("select sha256 from blobs")).map((b) => b.sha256);
const left = async () => (await ask<{ key: string }>("select key from left_over")).map((l) => l.key);

beforeAll(async () => {
  const base = await newDatabase();
  program = await startProgram(base, ["--role=server"], {
    HARDLINE_COLLECT_AFTER_SECONDS: "1",
    HARDLINE_PICTURES_DAYS: "0",
  });
  client = new pg.Client({ connectionString: base });
  await client.connect();
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#456" } })
    .png()
    .toBuffer();
  const { ticket, route } = await addTicket(program.url, picture, "a.png", [{ stage: "tone" }]);
  ids = { artwork: ticket.artwork.id, route: route.id, ticket: ticket.id };
});
afterAll(async () => {
  await client.end();
  await program?.stop();
});

/** How each place names a blob ($1), and how the name is taken back. */
const NAMES: Record<string, readonly [name: () => string, unname: () => string]> = {
  "a drawing": [
    () => `insert into drawings (artwork_id, width, sha256) values (${ids.artwork}, 77, $1)`,
    () => "delete from drawings where width = 77",
  ],
  "a half": [
    () => `insert into artwork_halves (artwork_id, times, sha256) values (${ids.artwork}, 9, $1)`,
    () => "delete from artwork_halves where times = 9",
  ],
  "an artwork's small picture": [
    () => `update artworks set thumbnail_sha256 = $1 where id = ${ids.artwork}`,
    () => `update artworks set thumbnail_sha256 = sha256 where id = ${ids.artwork}`,
  ],
  "a revision's picture": [
    () =>
      `update route_revisions v set thumbnail_sha256 = $1 from routes r
       where r.id = ${ids.route} and v.route_id = r.id and v.revision = r.revision`,
    () => `update route_revisions set thumbnail_sha256 = null where route_id = ${ids.route}`,
  ],
  "a test strip": [
    () =>
      `insert into strips (route_id, revision, title, labels, picture_sha256)
       values (${ids.route}, 1, 's', '[]', $1)`,
    () => "delete from strips",
  ],
  "a run's program": [
    () =>
      `insert into runs (machine_key, name, wish, state, program_sha256)
       select key, 'r', '{}', 'done', $1 from machines limit 1`,
    () => "delete from runs",
  ],
  "a run's plan": [
    () =>
      `insert into runs (machine_key, name, wish, state, plan)
       select key, 'r', '{}', 'done', jsonb_build_object('bitmap', jsonb_build_object('sha256', $1::text)) from machines limit 1`,
    () => "update runs set plan = null",
  ],
  "a hand-over's file": [
    () =>
      `insert into renders (route_id, revision, state, files)
       values (${ids.route}, 1, 'done', jsonb_build_array(jsonb_build_object('name', 'a', 'sha256', $1::text)))`,
    () => "update renders set files = '[]'",
  ],
  "a file that arrives": [
    () => `insert into arrivals (sha256, name, state, beat_at) values ($1, 'a', 'kept', now())`,
    () => "delete from arrivals",
  ],
};

test("a blob stays while anything names it, goes with the last name, and what stays is not looked at again", async () => {
  const places = Object.entries(NAMES);
  const shas = places.map(([place]) => createHash("sha256").update(place).digest("hex"));
  const nobodys = createHash("sha256").update("nobody").digest("hex");
  for (const sha of [...shas, nobodys])
    await ask("insert into blobs (sha256, bytes, media_type) values ($1, 1, 'text/plain')", [sha]);
  for (const [k, [, [name]]] of places.entries()) await ask(name(), [shas[k]]);
  for (let k = 0; k < 60 && ((await left()).length > 0 || (await blobs()).includes(nobodys)); k++)
    await sleep(200);
  expect(await left()).toEqual([]);
  const kept = await blobs();
  expect(kept).not.toContain(nobodys);
  for (const [k, [place]] of places.entries()) expect([place, kept.includes(shas[k])]).toEqual([place, true]);
  for (const [, [, unname]] of places) await ask(unname());
  expect((await left()).length).toBeGreaterThanOrEqual(places.length);
  const still = async () => (await blobs()).filter((sha) => shas.includes(sha));
  for (let k = 0; k < 60 && (await still()).length > 0; k++) await sleep(200);
  expect(await still()).toEqual([]);
});

test("a picture of a revision goes when the route has moved on, and an artwork when its ticket has another", async () => {
  const sha = createHash("sha256").update("old look").digest("hex");
  await ask("insert into blobs (sha256, bytes, media_type) values ($1, 1, 'image/png')", [sha]);
  const [{ revision }] = await ask<{ revision: number }>("select revision from routes where id = $1", [
    ids.route,
  ]);
  await ask("update route_revisions set thumbnail_sha256 = $1 where route_id = $2 and revision = $3", [
    ...[sha, ids.route, revision],
  ]);
  await ask(
    "insert into route_revisions (route_id, revision, parent, body) select route_id, revision + 100, revision, body from route_revisions where route_id = $1 and revision = $2",
    [ids.route, revision],
  );
  await sleep(2500);
  expect(await blobs()).toContain(sha);
  await ask("update routes set revision = revision + 100 where id = $1", [ids.route]);
  const other = await sharp({ create: { width: 41, height: 30, channels: 3, background: "#654" } })
    .png()
    .toBuffer();
  const { ticket } = await addTicket(program.url, other, "b.png", [{ stage: "tone" }]);
  await ask("update tickets set artwork_id = $1 where id = $2", [ids.artwork, ticket.id]);
  const gone = async () =>
    !(await blobs()).includes(sha) &&
    (await ask("select 1 from artworks where id = $1", [ticket.artwork.id])).length === 0;
  for (let k = 0; k < 60 && !(await gone()); k++) await sleep(200);
  expect(await gone()).toBe(true);
  expect(await ask("select 1 from artworks where id = $1", [ids.artwork])).toHaveLength(1);
});
