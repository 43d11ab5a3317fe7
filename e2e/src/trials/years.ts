import { type RouteView, type TicketsView } from "@hardline/contract";
import { TICKET_ORDERS, TICKET_STATES } from "@hardline/contract/constants";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram } from "../harness";
import { chance, printTable, quantile, sleep } from "./table";

// Usage: npm run years [-- SHARE]
/*
 * A shop after five years: 50,000 tickets, 200,000 revisions, 300,000 renders, 3,000 sheets and 20 batches of 500, as rows
 * that the product would write. Printed: how long everything takes that the pages ask for, which questions read a whole
 * table, and what the database comes to. SHARE makes the shop so many times smaller.
 */
const SHARE = Number(process.argv[2] ?? 1);
const [TICKETS, SHEETS, BATCHES, ITEMS] = [50000, 3000, 20, 500].map((n) =>
  Math.max(1, Math.round(n * SHARE)),
);
/** Revisions and renders of each ticket, in the mean. */
const [REVISIONS, RENDERS] = [4, 6];
/** Of the tickets so many are not put away yet, and so many of the latter not handed over. */
const [ON_BOARD, AT_WORK] = [1500, 250].map((n) => Math.max(2, Math.round(n * SHARE)));
/** Times that each question is asked. */
const TIMES = 40;
/** A connection at rest tells the database's counters what it read after so long. */
const TOLD_MS = Number(process.env.TOLD_MS ?? 11_000);
const next = chance(11);

async function main(): Promise<void> {
  const base = await newDatabase();
  const program = await startProgram(base, ["--role=server"], { LOG_LEVEL: "fatal" });
  const client = new pg.Client(base);
  await client.connect();
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#8a6" } })
    .png()
    .toBuffer();
  const { ticket, route } = await addTicket(program.url, picture, "tag.png", [
    { stage: "size", widthMm: 60 },
    { stage: "tone" },
    { stage: "blackWhite" },
  ]);
  const seconds: [string, string][] = [];
  const timed = async (name: string, act: () => Promise<unknown>): Promise<void> => {
    const from = performance.now();
    await act();
    seconds.push([name, `${((performance.now() - from) / 1000).toFixed(1)} s`]);
  };
  await timed("the rows are written", () => fill(client, ticket.id, route));
  await timed("analyze", () => client.query("analyze"));
  await timed("every ticket is summed up", () => client.query("select sum_up_ticket(id) from tickets"));
  await timed("vacuum analyze", () => client.query("vacuum analyze"));
  printTable("Filling the shop", ["", "takes"], seconds);

  const sizes = await client.query<{ name: string; rows: string; mb: string }>(
    `select relname as name, n_live_tup as rows, round(pg_total_relation_size(relid) / 1e6, 1) as mb
     from pg_stat_user_tables order by pg_total_relation_size(relid) desc limit 6`,
  );
  printTable(
    "The largest tables",
    ["table", "rows", "MB"],
    sizes.rows.map(({ name, rows, mb }) => [name, rows, mb]),
  );
  const all = await client.query<{ bytes: string }>("select pg_database_size(current_database()) as bytes");
  console.log(
    `\nThe database: ${(Number(all.rows[0].bytes) / 1e6).toFixed(0)} MB, ${(Number(all.rows[0].bytes) / 1e3 / TICKETS).toFixed(1)} kB a ticket.\n`,
  );

  const rows: string[][] = [];
  for (const [name, paths] of await questions(program.url, client)) {
    const before = await readWhole(client);
    const times: number[] = [];
    let bytes = 0;
    for (let k = 0; k < TIMES; k++) {
      const path = paths(k);
      const from = performance.now();
      const answer = await fetch(`${program.url}${path}`);
      bytes = Math.max(bytes, (await answer.arrayBuffer()).byteLength);
      if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
      times.push(performance.now() - from);
    }
    await sleep(TOLD_MS);
    const after = await readWhole(client);
    const read = [...after]
      .filter(([table, count]) => count > (before.get(table) ?? 0))
      .map(([table]) => table);
    const at = (share: number) => quantile(times, share).toFixed(0);
    rows.push([name, at(0.5), at(0.95), (bytes / 1e3).toFixed(0), read.join(", ") || "none"]);
    console.error(rows[rows.length - 1].join(" | "));
  }
  printTable(
    "What the pages ask for",
    ["question", "p50, ms", "p95, ms", "most, kB", "read as a whole"],
    rows,
  );
  await client.end();
  await program.stop();
}

/** How often each table of more than a thousand rows was read from end to end. */
async function readWhole(client: pg.Client): Promise<Map<string, number>> {
  const { rows } = await client.query<{ name: string; scans: string }>(
    "select relname as name, seq_scan as scans from pg_stat_user_tables where n_live_tup > 1000",
  );
  return new Map(rows.map(({ name, scans }) => [name, Number(scans)]));
}

/** What the pages ask for, each with the path of the k-th time. */
async function questions(url: string, client: pg.Client): Promise<[string, (k: number) => string][]> {
  const ids = async (query: string): Promise<string[]> =>
    (await client.query<{ id: string }>(query)).rows.map((r) => String(r.id));
  const some = (list: readonly string[]) => list[Math.floor(next() * list.length)];
  const tickets = await ids("select id from tickets");
  const routes = await ids("select id from routes");
  const sheets = await ids("select id from sheets");
  const batches = await ids("select id from batches");
  const runs = await ids("select id from renders where kind = 'hand over' order by id desc limit 2000");
  const ends: string[] = [];
  for (let after: string | null = "", k = 0; after !== null && k < TIMES; k++) {
    const path: string = `/api/tickets?state=archived&order=number${after && `&after=${after}`}`;
    after = (await ask<TicketsView>(`${url}${path}`)).next;
    ends.push(path);
  }
  const words = [
    "gate",
    "farm 4711",
    "barn sign",
    "tag 20",
    "oak",
    "ost",
    "a",
    "4",
    "harrow lane",
    "nothing at all",
  ];
  const search = (k: number) => encodeURIComponent(words[k % words.length]);
  return [
    ...TICKET_ORDERS.map((order): [string, () => string] => [
      `board, ${order}`,
      () => `/api/tickets?order=${order}`,
    ]),
    ...TICKET_STATES.map((s): [string, () => string] => [
      `board, ${s}`,
      () => `/api/tickets?state=${encodeURIComponent(s)}`,
    ]),
    ["further down the board", (k) => ends[k % ends.length]],
    ["counts", () => "/api/tickets/counts?find="],
    ["search", (k) => `/api/tickets?find=${search(k)}`],
    ["search, archived", (k) => `/api/tickets?state=archived&find=${search(k)}`],
    ["counts of a search", (k) => `/api/tickets/counts?find=${search(k)}`],
    ["tickets of a house route", () => "/api/tickets?route=Try&most=500"],
    ["a ticket", () => `/api/tickets/${some(tickets)}`],
    ["its strips", () => `/api/tickets/${some(tickets)}/strips`],
    ["its runs", () => `/api/tickets/${some(tickets)}/runs`],
    ["a route", () => `/api/routes/${some(routes)}`],
    ["its hand-overs", () => `/api/routes/${some(routes)}/renders`],
    ["a hand-over", () => `/api/renders/${some(runs)}`],
    ["sheets", () => "/api/sheets"],
    ["a sheet", () => `/api/sheets/${some(sheets)}`],
    ["batches", () => "/api/batches"],
    ["pictures of a batch", () => `/api/batches/${some(batches)}/items`],
    ["runs", () => "/api/runs"],
    ["machines", () => "/api/machines"],
    ["materials", () => "/api/materials"],
    ["house routes", () => "/api/house-routes"],
  ];
}

/** Writes the shop's rows, in a few statements. */
async function fill(client: pg.Client, ticketId: string, route: RouteView): Promise<void> {
  const run = (text: string, values: unknown[] = []) => client.query(text, values);
  await run("set session_replication_role = replica"); // what triggers keep is summed up once, afterwards
  const sha = (seed: string) => `md5(${seed}) || md5('b' || ${seed})`;
  await run(
    `insert into blobs (sha256, bytes, media_type) select ${sha("'a' || k")}, 300, 'image/png' from generate_series(1, $1) k`,
    [TICKETS],
  );
  await run(
    `insert into blob_chunks (sha256, seq, data) select sha256, 0, decode(repeat(sha256, 5), 'hex') from blobs where bytes = 300`,
  );
  await run(
    `insert into artworks (sha256, name, kind, media_type, bytes, width, height, vector, notes, pixels_sha256, thumbnail_sha256, reading, created_at)
     select ${sha("'a' || k")}, 'picture ' || k || '.png', a.kind, a.media_type, 300, a.width, a.height, a.vector, a.notes, null, ${sha("'a' || k")}, a.reading, now() - make_interval(hours => $1 - k)
     from generate_series(1, $1) k, (select a.* from artworks a join tickets t on t.artwork_id = a.id where t.id = $2) a`,
    [TICKETS, ticketId],
  );
  await run(
    `insert into tickets (artwork_id, piece, customer, due, pieces, note, output, material, archived_at, created_at)
     select a.id, (array['Gate tag', 'Barn sign', 'Oak board', 'Window sticker', 'Work shirt'])[1 + k % 5] || ' ' || k,
       (array['Farm', 'Bakery', 'Cycles', 'Harrow Lane', 'Skerry'])[1 + k % 5] || ' ' || (k * 7919) % 5000,
       current_date - ($1 - k)::int / 28 + 14, 1 + k % 40, case when k % 9 = 0 then 'as before, a shade darker' else '' end,
       (array['laser', 'cutter', 'screen print'])[1 + k % 3], (array['Birch', 'Slate', 'Cotton', 'Vinyl'])[1 + k % 4],
       case when k <= $2 then now() end, now() - make_interval(hours => $1 - k)
     from generate_series(1, $1) k join artworks a on a.name = 'picture ' || k || '.png'`,
    [TICKETS, TICKETS - ON_BOARD],
  );
  await run(
    `insert into routes (ticket_id, version, revision, created_at) select id, $2, $2, created_at from tickets where id <> $1`,
    [ticketId, REVISIONS],
  );
  await run(
    `insert into route_revisions (route_id, revision, parent, body, looks, stops, created_at)
     select r.id, v, nullif(v - 1, 0), $1::jsonb, r.id % 3, case when r.id % 40 = 0 then 1 else 0 end, r.created_at
     from routes r, generate_series(1, $2) v where r.ticket_id <> $3`,
    [JSON.stringify(route.route), REVISIONS, ticketId],
  );
  const files = ["bitmap.png", "readings.json", "job.pdf"].map((name) => ({
    ...{ name, sha256: "0".repeat(64), bytes: 4000, mediaType: "application/octet-stream" },
  }));
  await run(
    `insert into renders (kind, route_id, revision, state, progress, files, attempts, ended_at, created_at)
     select case when n % 3 = 0 then 'piece' else 'hand over' end, r.id, 1 + n % $2, 'done', 1, $1::jsonb, 1, r.created_at, r.created_at
     from routes r, generate_series(1, $3) n where r.id <= (select max(id) - $4 from routes)`,
    [JSON.stringify(files), REVISIONS, RENDERS, AT_WORK],
  );
  const placing = { piece: 0, sheet: 0, xMm: 40, yMm: 30, turnDegrees: 0, mirrored: false };
  await run(
    `insert into sheets (name, version, body, placings, revisions)
     select 'Sheet ' || k, 2, jsonb_build_object('stock', jsonb_build_object('widthMm', 600, 'heightMm', 300, 'sheets', 50, 'roll', false),
       'marginMm', 10, 'spacingMm', 2, 'turn', 'free', 'mirror', false, 'commonLines', false, 'marks', false, 'bleedMm', 0, 'rounds', 40,
       'kept', '[]'::jsonb, 'pieces', jsonb_build_array(jsonb_build_object('routeId', r.id::text, 'count', 40))),
       (select jsonb_agg($2::jsonb) from generate_series(1, 40)), jsonb_build_object(r.id::text, 1)
     from generate_series(1, $1) k join lateral (select id from routes where id = 1 + k) r on true`,
    [SHEETS, JSON.stringify(placing)],
  );
  await run(
    `insert into batches (name, route) select 'Batch ' || k, $2::jsonb from generate_series(1, $1) k`,
    [BATCHES, JSON.stringify(route.route)],
  );
  await run(
    `insert into renders (kind, batch_id, wish, state, progress, files, attempts, ended_at)
     select 'batch', b.id, jsonb_build_object('name', 'piece-' || n, 'artworkId', n::text), 'done', 1, $1::jsonb, 1, now()
     from batches b, generate_series(1, $2) n`,
    [JSON.stringify(files), ITEMS],
  );
  await run("set session_replication_role = default");
}

void main();
