import {
  type CustomerRecord,
  type CustomersView,
  type CustomerView,
  type OrderAgainView,
  type ReceiptView,
  type RouteView,
  type TicketsView,
  type TicketView,
} from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import { unzipSync } from "fflate";
import { createHash } from "node:crypto";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
let db: pg.Client;
const at = (path: string) => `${program.url}/api/${path}`;
const rows = async <T>(text: string, values: unknown[] = []): Promise<T[]> =>
  (await db.query(text, values)).rows as T[];

const picture = (seed: number) =>
  sharp({ create: { width: 30 + seed, height: 30, channels: 3, background: { r: seed, g: 80, b: 90 } } })
    .png()
    .toBuffer();
const words = (text: string) => ({ edit: "text", text, at: [0.5, 0.5], capitalMm: 5 });
const STAGES = [
  { stage: "size", widthMm: 40, dotsPerInch: 254 },
  { stage: "blackWhite" },
  { stage: "trace", edits: [words("Ann")] },
];

beforeAll(async () => {
  const databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl);
  db = new pg.Client(databaseUrl);
  await db.connect();
});
afterAll(async () => {
  await db?.end();
  await program?.stop();
});

const listed = (find: string, after?: string) =>
  ask<CustomersView>(at(`customers?find=${encodeURIComponent(find)}${after ? `&after=${after}` : ""}`));

test("a customer comes of the name on a ticket, however it is written, and is renamed on all of them", async () => {
  const { ticket } = await addTicket(program.url, await picture(1), "a.png", STAGES, {
    customer: "Corran Café",
  });
  const { ticket: other } = await addTicket(program.url, await picture(2), "b.png", STAGES, {
    customer: " corran café ",
  });
  expect(other.customer).toBe("Corran Café");
  expect(other.customerId).toBe(ticket.customerId);
  const [{ id, name, tickets }] = (await listed("corran")).customers;
  expect([id, name, tickets]).toEqual([ticket.customerId, "Corran Café", 2]);
  await ask(at(`customers/${id}`), "PATCH", {
    name: "Corran Tearoom",
    email: "tea@corran.example",
    phone: "0123 45",
  });
  expect((await ask<TicketView>(at(`tickets/${ticket.id}`))).customer).toBe("Corran Tearoom");
  expect((await listed("0123")).customers.map((c) => c.name)).toEqual(["Corran Tearoom"]);
  const own = await ask<TicketsView>(at(`tickets?customer=${id}`));
  expect(own.tickets.map((t) => t.id).sort()).toEqual([ticket.id, other.id].sort());
  await ask(at(`tickets/${other.id}`), "PATCH", { customer: "" });
  expect((await ask<TicketView>(at(`tickets/${other.id}`))).customerId).toBeNull();
  await ask(at(`tickets/${other.id}`), "PATCH", { customer: "Corran Tearoom" });
  await ask(at("customers"), "POST", { name: "Quay Gallery" });
  for (const [method, path, json] of [
    ["POST", "customers", { name: "QUAY GALLERY" }],
    ["PATCH", `customers/${id}`, { name: "quay gallery" }],
  ] as const)
    await expect(ask(at(path), method, json)).rejects.toThrow(/409.*There is a customer called/);
});

test("letters of every script are found small or large, on the board too", async () => {
  const { ticket } = await addTicket(program.url, await picture(6), "d.png", STAGES, {
    customer: "Östergren Ånglås",
  });
  const { ticket: other } = await addTicket(program.url, await picture(7), "e.png", STAGES, {
    customer: "ÖSTERGREN ånglås",
  });
  expect([other.customer, other.customerId]).toEqual(["Östergren Ånglås", ticket.customerId]);
  for (const find of ["öster", "ÖSTERGREN", "ångl", "Ånglås öst"]) {
    expect((await listed(find)).customers.map((c) => c.name)).toEqual(["Östergren Ånglås"]);
    const { tickets } = await ask<TicketsView>(at(`tickets?find=${encodeURIComponent(find)}`));
    expect(tickets.map((t) => t.id).sort()).toEqual([ticket.id, other.id].sort());
  }
  await ask(at("people"), "POST", { name: "Åsa Öberg", role: "floor" });
  await expect(ask(at("people"), "POST", { name: "åsa öberg", role: "floor" })).rejects.toThrow(/409/);
});

test("one of twenty thousand is found as one types, those that begin so first, stretch by stretch", async () => {
  await db.query(
    "insert into customers (name, email) select 'Firm ' || k, 'k' || k || '@firms.example' from generate_series(1, 20000) k",
  );
  await db.query("insert into customers (name) values ('Zed of Firm 777')");
  const found = await listed("firm 777");
  expect(found.customers[0].name).toBe("Firm 777");
  expect(found.customers.some((c) => c.name === "Zed of Firm 777")).toBe(true);
  const all = await listed("firm");
  expect([all.count, all.customers.length]).toEqual([20001, 60]);
  const names = new Set<string>();
  let after: string | undefined;
  for (let k = 0; k < 5; k++) {
    const { customers, next } = await listed("firm 12", after);
    for (const { name } of customers) {
      expect(names.has(name)).toBe(false);
      names.add(name);
    }
    if (!next) break;
    after = next;
  }
  const [{ count }] = await rows<{ count: number }>(
    "select count(*)::int as count from customers where lower(name || email) like '%firm%' and lower(name || ' ' || email) like '%12%'",
  );
  expect(names.size).toBe(Math.min(300, count));
  for (const after of ["x", Buffer.from("[1]").toString("base64url")])
    await expect(listed("firm", after)).rejects.toThrow(/400/);
  // The index is used: nothing is read through.
  await db.query("analyze customers");
  const plan = await rows<{ "QUERY PLAN": string }>(
    "explain select id from customers c where fold(c.name || ' ' || c.email || ' ' || c.phone || ' ' || c.address) like '%firm 777%'",
  );
  expect(JSON.stringify(plan)).toContain("customers_words");
});

test("ordering again makes a ticket with the routes of the old one, changed in what is asked", async () => {
  const { ticket, route } = await addTicket(program.url, await picture(3), "c.png", STAGES, {
    customer: "Corran Tearoom",
    piece: "Name plates",
    pieces: 4,
    due: "2026-03-01",
    note: "brass screws",
  });
  const garment = (name: string, colour: string) => ({ name, garment: colour });
  await ask(at(`tickets/${ticket.id}/routes`), "POST", {
    route: readRoute({
      ...route.route,
      name: "Shirts",
      colourways: [garment("Navy", "#112244"), garment("Sand", "#ddccaa")],
    }),
  });
  await ask(at(`routes/${route.id}/findings`), "PUT", { revision: route.revision, looks: 2, stops: 0 });
  const offer = await ask<OrderAgainView>(at(`tickets/${ticket.id}/again`));
  expect([offer.words, offer.colourways]).toEqual([["Ann"], ["Navy", "Sand"]]);
  const same = await ask<TicketView>(at(`tickets/${ticket.id}/again`), "POST", {});
  expect(same).toMatchObject({
    piece: "Name plates",
    pieces: 4,
    due: null,
    note: "brass screws",
    customerId: ticket.customerId,
    looks: 2,
  });
  expect(same.routes.map((r) => r.name)).toEqual(["Try", "Shirts"]);
  const other = await ask<TicketView>(at(`tickets/${ticket.id}/again`), "POST", {
    pieces: 9,
    due: "2026-12-24",
    words: [{ was: "Ann", now: "Berit" }],
    colourway: "Sand",
  });
  expect(other).toMatchObject({ pieces: 9, due: "2026-12-24", materialColour: "#ddccaa", state: "draft" });
  const [first, second] = await Promise.all(other.routes.map((r) => ask<RouteView>(at(`routes/${r.id}`))));
  expect(JSON.stringify(first.route)).toContain("Berit");
  expect(JSON.stringify([first.route, second.route])).not.toContain("Ann");
  expect(second.route.colourways.map((w) => [w.name, w.shown])).toEqual([
    ["Navy", false],
    ["Sand", true],
  ]);
  // The old one stays as it was.
  expect((await ask<RouteView>(at(`routes/${route.id}`))).route).toEqual(route.route);
  for (const json of [{ colourway: "Red" }, { pieces: 0 }, { words: [{ was: "Ann" }] }, { due: "soon" }])
    await expect(ask(at(`tickets/${ticket.id}/again`), "POST", json)).rejects.toThrow(/400/);
});

test("what is removed of a customer is gone down to the bytes, and nothing of anybody else", async () => {
  const shared = await picture(50);
  const own = await picture(51);
  const photo = await picture(52);
  const name = "Ysolde Quarrington";
  const secret = `For ${name}`;
  const stages = [
    ...STAGES.slice(0, 2),
    { stage: "trace", edits: Array.from({ length: 6 }, () => words(secret)) },
  ];
  const { ticket, route } = await addTicket(program.url, own, "own.png", stages, {
    customer: name,
    note: secret,
  });
  const { ticket: second } = await addTicket(program.url, shared, "shared.png", STAGES, { customer: name });
  const { ticket: others, route: othersRoute } = await addTicket(program.url, shared, "shared.png", STAGES, {
    customer: "Somebody Else",
  });
  const id = ticket.customerId!;
  const { id: photoArtwork } = (await (
    await fetch(at("artworks?name=mug.png"), { method: "POST", body: new Uint8Array(photo) })
  ).json()) as { id: string };
  const { key } = await ask<{ key: string }>(at("photos"), "POST", {
    artworkId: photoArtwork,
    ticketId: ticket.id,
  });
  // One that somebody else's print is shown on by now.
  const lent = await picture(54);
  const { id: lentArtwork } = (await (
    await fetch(at("artworks?name=jug.png"), { method: "POST", body: new Uint8Array(lent) })
  ).json()) as { id: string };
  const { key: lentKey } = await ask<{ key: string }>(at("photos"), "POST", {
    ...{ artworkId: lentArtwork, ticketId: ticket.id },
  });
  const area = {
    kind: "flat",
    corners: [
      [0.1, 0.1],
      [0.9, 0.1],
      [0.9, 0.9],
      [0.1, 0.9],
    ],
    widthMm: 200,
  };
  const shown = { photo: lentKey, widthPx: 84, heightPx: 30, area };
  await ask(at(`tickets/${others.id}/routes`), "POST", {
    route: readRoute({
      ...{ format: "hard-line-route", version: 1, name: "Jug" },
      stages: [{ stage: "size", widthMm: 40 }, { stage: "transfer" }, { stage: "mockUp", thing: shown }],
    }),
  });
  await ask(at(`tickets/${ticket.id}/comments`), "POST", { text: secret });
  await ask(at(`routes/${route.id}/revisions/${route.revision}/approvals`), "POST", { by: secret });
  const piece = Buffer.from(await picture(53)).toString("base64");
  await ask(at(`routes/${route.id}/findings`), "PUT", {
    revision: route.revision,
    looks: 0,
    stops: 0,
    thumbnail: piece,
  });
  const render = await ask<{ id: string; state: string }>(at(`routes/${route.id}/renders`), "POST", {
    revision: route.revision,
  });
  for (let state = ""; state !== "done"; await new Promise((r) => setTimeout(r, 200)))
    state = (await ask<{ state: string }>(at(`renders/${render.id}`))).state;
  const sheet = await ask<{ id: string; version: number }>(at("sheets"), "POST", {
    name: "Mixed",
    body: {
      stock: { widthMm: 300, heightMm: 200 },
      pieces: [
        { routeId: route.id, count: 2 },
        { routeId: othersRoute.id, count: 1 },
      ],
    },
  });

  const record = await ask<CustomerRecord>(at(`customers/${id}`));
  expect(record).toMatchObject({ name, tickets: 2, photos: [{ key }, { key: lentKey }] });
  expect(record.artworks.map((a) => a.name).sort()).toEqual(["own.png", "shared.png"]);
  expect(record.approvals).toHaveLength(1);

  const archive = unzipSync(new Uint8Array(await (await fetch(at(`customers/${id}/export`))).arrayBuffer()));
  const shas = Object.values(archive).map((bytes) => createHash("sha256").update(bytes).digest("hex"));
  for (const bytes of [own, shared, photo])
    expect(shas).toContain(createHash("sha256").update(bytes).digest("hex"));
  const told = Buffer.from(archive["customer.json"]).toString();
  for (const part of [name, secret, "own.png"]) expect(told).toContain(part);
  expect(Buffer.from(archive[`${ticket.number}/routes.json`]).toString()).toContain(secret);
  expect(JSON.parse(Buffer.from(archive[`${ticket.number}/routes.json`]).toString())).toHaveLength(2);
  expect(Object.keys(archive).some((n) => n.startsWith(`${ticket.number}/hand-over-`))).toBe(true);

  // While something is at a machine, nothing is removed.
  await db.query(
    "insert into runs (machine_key, name, ticket_id, wish, state) select key, 'r', $1, '{}', 'held' from machines limit 1",
    [ticket.id],
  );
  await expect(ask(at(`customers/${id}`), "DELETE")).rejects.toThrow(/409.*is held/);
  expect((await ask<TicketView>(at(`tickets/${ticket.id}`))).note).toBe(secret);
  await db.query("update runs set state = 'done' where ticket_id = $1", [ticket.id]);

  const receipt = await ask<ReceiptView>(at(`customers/${id}`), "DELETE");
  expect(receipt).toMatchObject({
    ...{ name, by: "Ida Vell", tickets: [ticket.number, second.number], routes: 2, revisions: 4, photos: 1 },
    ...{ files: 1, runs: 1, comments: 1, approvals: 1, sheets: ["Mixed"] },
  });
  expect(receipt.artworks.map((a) => a.name).sort()).toEqual(["mug.png", "own.png"]);
  expect(receipt.bytes).toBeGreaterThan(own.length);

  // Nowhere in the whole database stands the name any more, nor the words, nor the bytes.
  const tables = await rows<{ name: string }>(
    "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'",
  );
  expect(tables.length).toBeGreaterThan(20);
  for (const { name: table } of tables) {
    const [{ count }] = await rows<{ count: number }>(
      `select count(*)::int as count from "${table}" t where t::text ilike $1 or t::text ilike $2`,
      [`%${name}%`, "%own.png%"],
    );
    expect([table, count]).toEqual([table, 0]);
  }
  const kept = (bytes: Buffer) =>
    rows("select from blobs where sha256 = $1", [createHash("sha256").update(bytes).digest("hex")]);
  expect(await kept(own)).toHaveLength(0);
  expect(await kept(photo)).toHaveLength(0);
  expect(await kept(shared)).toHaveLength(1);
  expect(await kept(lent)).toHaveLength(1);
  expect(await ask(at(`photos/${lentKey}`))).toMatchObject({ name: "jug.png" });
  // What others have stands as it stood.
  expect((await ask<TicketView>(at(`tickets/${others.id}`))).artwork.name).toBe("shared.png");
  expect((await ask<RouteView>(at(`routes/${othersRoute.id}`))).route).toEqual(othersRoute.route);
  const { pieces } = await ask<{ pieces: { routeId: string }[] }>(at(`sheets/${sheet.id}`));
  expect(pieces.map((p) => p.routeId)).toEqual([othersRoute.id]);
  await expect(ask<CustomerView>(at(`customers/${id}`), "DELETE")).rejects.toThrow(/404/);
});
