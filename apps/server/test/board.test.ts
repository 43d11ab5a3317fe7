import { type TicketCounts, type TicketsView, type TicketView } from "@hardline/contract";
import {
  TICKET_ORDERS,
  TICKET_STATES,
  type TicketOrder,
  type TicketState,
} from "@hardline/contract/constants";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

/** Tickets of a shop by chance, written as the product writes them. */
const COUNT = 230;
let program: Program;
let database: pg.Client;
const url = (path: string) => `${program.url}${path}`;
const stretch = (query: string) => ask<TicketsView>(url(`/api/tickets?${query}`));
const counts = (find = "") => ask<TicketCounts>(url(`/api/tickets/counts?find=${encodeURIComponent(find)}`));

/** Every ticket that a question finds, stretch by stretch. */
async function all(query: string, most = 37): Promise<TicketView[]> {
  const found: TicketView[] = [];
  for (let after = ""; ;) {
    const { tickets, next } = await stretch(`${query}&most=${most}${after && `&after=${after}`}`);
    expect(tickets.length).toBeLessThanOrEqual(most);
    found.push(...tickets);
    if (next === null) return found;
    expect(tickets).toHaveLength(most);
    after = next;
  }
}

beforeAll(async () => {
  const base = await newDatabase();
  program = await startProgram(base, ["--role=server"]);
  database = new pg.Client(base);
  await database.connect();
  const flat = sharp({ create: { width: 20, height: 10, channels: 3, background: "#808080" } });
  const { ticket } = await addTicket(program.url, await flat.png().toBuffer(), "harbour light.png", []);
  await database.query(
    `insert into tickets (artwork_id, piece, customer, due, pieces, note, output, material, archived_at)
     select artwork_id, 'Piece ' || k, (array['Ada', 'Moss & Co', 'Zed', ''])[1 + k % 4],
       case when k % 5 = 0 then null else date '2026-12-01' + (k * 7) % 60 end, 1,
       case when k % 10 = 3 then '50% off_season' else '' end, 'laser', 'Birch',
       case when k % 3 = 0 then now() end
     from tickets, generate_series(1, $1) k where tickets.id = $2`,
    [COUNT, ticket.id],
  );
  // What was found on the routes of some, and what was handed over.
  await database.query(
    `with r as (
       insert into routes (ticket_id, revision) select id, 1 from tickets where id <> $1 and id % 2 = 0 returning id, ticket_id
     ), v as (
       insert into route_revisions (route_id, revision, body, looks, stops)
       select id, 1, '{"name": "Engraved"}', ticket_id % 4, case when ticket_id % 6 = 0 then 1 else 0 end from r returning route_id
     )
     insert into renders (route_id, revision, state) select route_id, 1, case when route_id % 3 = 0 then 'done' else 'failed' end from v`,
    [ticket.id],
  );
  // Triggers saw the routes before their revisions, which the same statement wrote: a whole look, as for a shop of before.
  await database.query("select sum_up_ticket(id) from tickets");
});
afterAll(async () => {
  await database?.end();
  await program?.stop();
});

const COMPARED: Record<TicketOrder, (t: TicketView) => (string | number)[]> = {
  due: (t) => [t.due ?? "9999-99-99", t.number],
  number: (t) => [-t.number],
  customer: (t) => [t.customer, t.number],
  looks: (t) => [-t.stops, -t.looks, t.number],
};
const inOrder = (order: TicketOrder, a: TicketView, b: TicketView): boolean => {
  const [p, q] = [a, b].map((t) => [Number(t.state === "archived"), ...COMPARED[order](t)]);
  const k = p.findIndex((v, i) => v !== q[i]);
  return k < 0 || p[k] < q[k];
};

test.each(TICKET_ORDERS)("in the order %s every ticket comes once, stretch by stretch", async (order) => {
  const found = [...(await all(`order=${order}`)), ...(await all(`order=${order}&state=archived`))];
  expect(new Set(found.map((t) => t.id)).size).toBe(COUNT + 1);
  expect(found).toHaveLength(COUNT + 1);
  for (let k = 1; k < found.length; k++) expect(inOrder(order, found[k - 1], found[k])).toBe(true);
});

test("states are those of the routes as they stand, and are counted", async () => {
  const sum = (all: (number | null)[]) => all.reduce<number>((a, b) => a + (b ?? 0), 0);
  const { rows } = await database.query<{
    id: string;
    archived: boolean;
    routes: { looks: number | null; stops: number | null; handed: boolean }[] | null;
  }>(
    `select t.id::text, t.archived_at is not null as archived, (
       select jsonb_agg(jsonb_build_object('looks', v.looks, 'stops', v.stops, 'handed', exists (
         select from renders d where d.route_id = r.id and d.revision = r.revision and d.state = 'done')))
       from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision where r.ticket_id = t.id
     ) as routes from tickets t`,
  );
  const stateOf = ({ archived, routes }: (typeof rows)[number]): TicketState => {
    const own = routes ?? [];
    if (archived) return "archived";
    if (own.length > 0 && own.every((r) => r.handed)) return "handed over";
    if (sum(own.map((r) => r.stops)) > 0) return "to stop";
    if (sum(own.map((r) => r.looks)) > 0) return "to look at";
    return own.every((r) => r.looks === null) ? "draft" : "ready";
  };
  const expected = new Map(rows.map((row) => [row.id, stateOf(row)]));
  const counted = await counts();
  for (const state of TICKET_STATES) {
    const found = await all(`state=${encodeURIComponent(state)}`);
    expect([state, found.length]).toEqual([state, [...expected.values()].filter((s) => s === state).length]);
    expect(found.every((t) => t.state === state && expected.get(t.id) === state)).toBe(true);
    expect(counted[state]).toBe(found.length);
  }
  expect(Object.values(counted).filter((n) => n > 0).length).toBeGreaterThanOrEqual(5);
});

test("a search finds whole and parts of words in number, piece, customer, note and the artwork's name, and what was put away, last", async () => {
  const found = (find: string) => all(`find=${encodeURIComponent(find)}`);
  // A part of a word will do, in any of the words, the number's too.
  const both = (await found("171 piece")).map((t) => [t.number, t.piece].join());
  expect(both.some((t) => t.endsWith("Piece 171")) && both.every((t) => t.includes("171"))).toBe(true);
  expect(both.length).toBeGreaterThan(1);
  expect((await found("piece 172 ada")).map((t) => t.piece)).toContain("Piece 172");
  expect((await found("piece 172 zed")).map((t) => t.piece)).not.toContain("Piece 172");
  expect(await found("harbour LIGHT")).toHaveLength(COUNT + 1);
  const moss = await found("moss birch");
  expect(moss.length).toBeGreaterThan(40);
  expect(moss.every((t) => t.customer === "Moss & Co")).toBe(true);
  const away = moss.map((t) => t.state === "archived");
  expect(away.some(Boolean) && !away.every(Boolean)).toBe(true);
  expect(away.lastIndexOf(false)).toBeLessThan(away.indexOf(true));
  const counted = await counts("moss birch");
  expect(TICKET_STATES.reduce((n, s) => n + counted[s], 0)).toBe(moss.length);
  // Signs that mean something to the database are letters here.
  expect(await found("50% off_")).toHaveLength(COUNT / 10);
  expect(await found("5_% off")).toEqual([]);
  expect(await found("\\")).toEqual([]);
  expect(await found("''; drop table tickets")).toEqual([]);
});

test("a change of words or state is on the board at once, whoever makes it", async () => {
  const { ticket, route } = await addTicket(
    program.url,
    await sharp({ create: { width: 9, height: 9, channels: 3, background: "#123" } })
      .png()
      .toBuffer(),
    "weathercock.png",
    [],
    { piece: "Rooster" },
  );
  const ids = async (query: string) => (await all(query)).map((t) => t.id);
  expect(await ids("find=weathercock")).toEqual([ticket.id]);
  await ask(url(`/api/tickets/${ticket.id}`), "PATCH", { note: "for the Chapel" });
  expect(await ids("find=chapel+rooster")).toEqual([ticket.id]);
  await ask(url(`/api/routes/${route.id}/findings`), "PUT", { revision: route.revision, looks: 2, stops: 0 });
  expect(await ids("state=to+look+at&find=rooster")).toEqual([ticket.id]);
  await ask(url(`/api/tickets/${ticket.id}/archive`), "POST");
  expect(await ids("state=archived&find=rooster")).toEqual([ticket.id]);
  await ask(url(`/api/tickets/${ticket.id}/restore`), "POST");
  expect((await ask<TicketView>(url(`/api/tickets/${ticket.id}`))).state).toBe("to look at");
});

test("tickets of one house route are told by its name", async () => {
  const found = await all("route=Engraved", 500);
  expect(found.length).toBeGreaterThan(50);
  expect(found.every((t) => t.routes.some((r) => r.name === "Engraved"))).toBe(true);
  expect(await all("route=engraved")).toEqual([]);
});

test.each([
  ["state=lost", /state is "lost"; allowed: draft, to stop/],
  ["order=up", /order is "up"; allowed: due, number, customer, looks/],
  ["most=0", /most is "0"; allowed: a whole number from 1 to 500/],
  ["most=1e9", /most is "1e9"/],
  ["after=oops", /after is "oops"/],
  [`after=${Buffer.from('[false,"soon",1]').toString("base64url")}`, /after is/],
  [`after=${Buffer.from("[false,1]").toString("base64url")}`, /after is/],
  [`find=${"x".repeat(201)}`, /find is .*at most 200 letters/],
  [`find=${"a b c d e f g h i j k l m".replaceAll(" ", "+")}`, /at most 12 words/],
  ["find=%00", /find is/],
])("nonsense is refused before anything is looked up: %s", async (query, detail) => {
  const answer = await fetch(url(`/api/tickets?${query}`));
  expect(answer.status).toBe(400);
  expect(((await answer.json()) as { detail: string }).detail).toMatch(detail);
});
