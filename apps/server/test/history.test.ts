import {
  type ApprovalView,
  type CommentView,
  type DoneView,
  type PersonView,
  type Problem,
  type RevisionsView,
  type RouteView,
  type TicketView,
  type WatchView,
} from "@hardline/contract";
import { withSettings, withStage } from "@hardline/core/route/route";
import pg from "pg";
import sharp from "sharp";
import { newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { firstOwner, invited, Visitor } from "../../../e2e/src/visitor";

let program: Program;
let db: pg.Client;
let [ann, bob]: Visitor[] = [];
let ticket: TicketView;

const picture = () =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: "#456" } })
    .png()
    .toBuffer();

async function upload(visitor: Visitor, bytes: Buffer): Promise<{ id: string }> {
  const answer = await fetch(`${program.url}/api/artworks?name=gull.png`, {
    method: "POST",
    body: new Uint8Array(bytes),
    headers: { Cookie: visitor.cookie },
  });
  return (await answer.json()) as { id: string };
}

beforeAll(async () => {
  const databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl, ["--role=server"], { HARDLINE_DEMO: "0" });
  db = new pg.Client(databaseUrl);
  await db.connect();
  ann = await firstOwner(program.url, databaseUrl);
  bob = await invited(ann, "Bob Tarn", "operator");
  const { id } = await upload(ann, await picture());
  ticket = await ann.ask("POST", "/api/tickets", { artworkId: id, piece: "Gull", customer: "Corran Café" });
});
afterAll(async () => {
  await db?.end();
  await program?.stop();
});

const routeNow = (who: Visitor, id = ticket.routes[0].id) => who.ask<RouteView>("GET", `/api/routes/${id}`);
async function change(who: Visitor, of: (route: RouteView["route"]) => RouteView["route"], id?: string) {
  const { id: own, version, route } = await routeNow(who, id);
  return who.ask<RouteView>("PUT", `/api/routes/${own}`, { version, route: of(route) });
}
const historyOf = (query = "") =>
  ann.ask<RevisionsView>("GET", `/api/routes/${ticket.routes[0].id}/revisions${query}`);

test("every revision says who made it and what changed, and can be asked for by person and stage", async () => {
  await change(ann, (r) => withStage(r, "cutLine"));
  await change(ann, (r) => withSettings(r, "cutLine", { offsetMm: 2 }));
  await change(bob, (r) => withSettings(r, "size", { widthMm: 70 }));
  const { revisions, people, next } = await historyOf();
  expect(revisions.map((r) => [r.revision, r.by.name, r.changes.map((c) => c.words), r.stands])).toEqual([
    [4, "Bob Tarn", ["width 70 mm, was 90"], true],
    [3, "Ann Orrin", ["border 2 mm, was 0"], false],
    [2, "Ann Orrin", ["put in"], false],
    [1, "Ann Orrin", [], false],
  ]);
  expect(people.map((p) => p.name)).toEqual(["Ann Orrin", "Bob Tarn"]);
  expect(next).toBeNull();
  const of = async (query: string) => (await historyOf(query)).revisions.map((r) => r.revision);
  expect(await of(`?person=${people[1].id}`)).toEqual([4]);
  expect(await of("?stage=cutLine")).toEqual([3, 2]);
  expect(await of("?stage=cutLine&before=3")).toEqual([2]);
  expect(
    (await ann.call("GET", `/api/routes/${ticket.routes[0].id}/revisions?stage=oil`)).body.detail,
  ).toMatch(/stage is "oil"; allowed: route, artwork/);
  expect((await ann.call("GET", "/api/routes/999999/revisions")).status).toBe(404);
});

test("what was saved before changes were written down is compared when it is looked at", async () => {
  await db.query("update route_revisions set changes = null where revision = 3");
  const { revisions } = await historyOf();
  expect(revisions[1].changes.map((c) => c.words)).toEqual(["border 2 mm, was 0"]);
});

test("an old one is brought back as a new one, made on what was seen, and is named", async () => {
  const { id } = ticket.routes[0];
  const old = await ann.ask<{ route: RouteView["route"] }>("GET", `/api/routes/${id}/revisions/2`);
  const { version } = await routeNow(bob);
  const late = await bob.call("POST", `/api/routes/${id}/revisions/2/bring-back`, { version: version - 1 });
  expect([late.status, (late.body as Problem).title]).toEqual([409, "Changed meanwhile"]);
  const back = await bob.ask<RouteView>("POST", `/api/routes/${id}/revisions/2/bring-back`, { version });
  expect([back.revision, back.route]).toEqual([5, old.route]);
  // Twice is once: it stands already.
  const again = await bob.ask<RouteView>("POST", `/api/routes/${id}/revisions/2/bring-back`, {
    version: back.version,
  });
  expect(again.revision).toBe(5);
  expect(
    (await bob.call("POST", `/api/routes/${id}/revisions/77/bring-back`, { version: back.version })).status,
  ).toBe(404);
  await bob.ask("PUT", `/api/routes/${id}/revisions/2/name`, { name: "as first sent" });
  const { revisions } = await historyOf();
  expect(revisions[0]).toMatchObject({ broughtBack: 2, stands: true, by: { name: "Bob Tarn" } });
  expect(revisions.find((r) => r.revision === 2)!.name).toBe("as first sent");
  await bob.ask("PUT", `/api/routes/${id}/revisions/2/name`, { name: " " });
  expect((await historyOf()).revisions.find((r) => r.revision === 2)!.name).toBeNull();
});

test("a yes of the customer stands at its revision, with who wrote it down", async () => {
  const { id } = ticket.routes[0];
  const yes = await bob.ask<ApprovalView>("POST", `/api/routes/${id}/revisions/4/approvals`, {
    by: "Mrs Corran, by telephone",
  });
  expect(yes).toMatchObject({ who: "Mrs Corran, by telephone", revision: 4, by: { name: "Bob Tarn" } });
  expect((await historyOf()).revisions.find((r) => r.revision === 4)!.approvals).toEqual([yes]);
  expect((await bob.call("POST", `/api/routes/${id}/revisions/44/approvals`, { by: "x" })).status).toBe(404);
});

test("comments have a place, are seen to by anybody, and taken away by their writer alone", async () => {
  const said = await bob.ask<CommentView>("POST", `/api/tickets/${ticket.id}/comments`, {
    text: "The beak is too thin.",
    routeId: ticket.routes[0].id,
    at: [0.25, 0.5],
  });
  expect(said).toMatchObject({ place: [0.25, 0.5], own: true, done: null, by: { name: "Bob Tarn" } });
  const [seen] = await ann.ask<CommentView[]>("GET", `/api/tickets/${ticket.id}/comments`);
  expect(seen.own).toBe(false);
  expect((await ann.call("DELETE", `/api/comments/${said.id}`)).body.title).toBe("Not yours");
  await ann.ask("POST", `/api/comments/${said.id}/done`);
  const [done] = await bob.ask<CommentView[]>("GET", `/api/tickets/${ticket.id}/comments`);
  expect(done.done!.by.name).toBe("Ann Orrin");
  await bob.ask("DELETE", `/api/comments/${said.id}/done`);
  await bob.ask("DELETE", `/api/comments/${said.id}`);
  expect(await bob.ask("GET", `/api/tickets/${ticket.id}/comments`)).toEqual([]);
  for (const json of [
    { text: "" },
    { text: "x", at: [5, 0] },
    { text: "x", at: [0] },
    { text: "x", routeId: "999" },
  ])
    expect((await bob.call("POST", `/api/tickets/${ticket.id}/comments`, json)).status).toBe(400);
});

/** Word of a ticket as it comes, until what is waited for has come. */
async function heard(who: Visitor, until: (view: WatchView) => boolean): Promise<WatchView> {
  const answer = await fetch(`${program.url}/api/tickets/${ticket.id}/watch?route=${ticket.routes[0].id}`, {
    headers: { Cookie: who.cookie, Accept: "text/event-stream" },
    signal: AbortSignal.timeout(20000),
  });
  const reader = answer.body!.getReader();
  let text = "";
  for (;;) {
    const { value, done } = await reader.read();
    if (done) throw new Error("it ended");
    text += Buffer.from(value).toString();
    // What follows the last empty line has not come whole.
    const lines = text
      .split("\n\n")
      .slice(0, -1)
      .flatMap((event) => event.split("\n"));
    const views = lines.filter((l) => l.startsWith("data: ")).map((l) => JSON.parse(l.slice(6)) as WatchView);
    const found = views.find(until);
    if (!found) continue;
    await reader.cancel();
    return found;
  }
}

test("two at one ticket see each other come and go, and what the other changed", async () => {
  const away = new AbortController();
  const stream = await fetch(`${program.url}/api/tickets/${ticket.id}/watch?route=${ticket.routes[0].id}`, {
    headers: { Cookie: bob.cookie, Accept: "text/event-stream" },
    signal: away.signal,
  });
  expect(stream.status).toBe(200);
  const both = await heard(ann, ({ people }) => people.length > 0);
  expect(both.people).toEqual([{ id: expect.any(String), name: "Bob Tarn", routeId: ticket.routes[0].id }]);
  const changed = heard(ann, ({ routes }) => routes[0].revision === 6);
  await change(bob, (r) => withSettings(r, "size", { widthMm: 75 }));
  expect((await changed).routes[0].by.name).toBe("Bob Tarn");
  away.abort();
  const alone = await heard(ann, ({ people }) => people.length === 0);
  expect(alone.people).toEqual([]);
  expect((await new Visitor(program.url).call("GET", `/api/tickets/${ticket.id}/watch`)).status).toBe(401);
});

test("what was done in the shop is told by day and person, revisions of an hour together", async () => {
  const people = await ann.ask<PersonView[]>("GET", "/api/people");
  const [from, to] = [new Date(Date.now() - 3600_000), new Date(Date.now() + 60_000)].map((d) =>
    d.toISOString(),
  );
  const done = (more = "") => ann.ask<DoneView[]>("GET", `/api/journal?from=${from}&to=${to}${more}`);
  const all = await done();
  const said = all.map((d) => `${d.by.name} ${d.words} ${d.ticket?.piece ?? d.subject}`);
  for (const line of [
    "Ann Orrin began Gull",
    "Ann Orrin invited Bob Tarn",
    "Bob Tarn commented on Gull",
    "Bob Tarn wrote down a yes to Gull",
    "Bob Tarn brought back a revision of Gull",
  ])
    expect(said).toContain(line);
  expect(said.some((s) => /Ann Orrin changed 2 times Gull/.test(s))).toBe(true);
  expect([...all].sort((a, b) => (a.at < b.at ? 1 : -1))).toEqual(all);
  const own = await done(`&person=${people.find((p) => p.name === "Bob Tarn")!.id}`);
  expect(new Set(own.map((d) => d.by.name))).toEqual(new Set(["Bob Tarn"]));
  for (const query of ["", "?from=x&to=y", `?from=${to}&to=${from}`, `?from=2020-01-01T00:00:00Z&to=${to}`])
    expect((await ann.call("GET", `/api/journal${query}`)).status).toBe(400);
});

test("a stop is taken from somebody who was known, while nobody can be asked", async () => {
  const floor = await invited(ann, "Dan Elm", "floor");
  // Known from what was asked before.
  await floor.call("GET", "/api/machines");
  const seen = await floor.call("POST", "/api/runs/999999/stop");
  expect(seen.status).toBe(404);
  await db.query("alter table sessions rename to sessions_away");
  try {
    // Who one is cannot be found out now; whether there is such a run still can.
    expect((await floor.call("GET", "/api/machines")).status).toBe(500);
    expect((await floor.call("POST", "/api/runs/999999/stop")).status).toBe(404);
    expect((await floor.call("POST", "/api/runs/999999/pause")).status).toBe(404);
    // Nothing else is, and nobody else.
    expect((await floor.call("POST", "/api/runs/999999/queue")).status).toBe(500);
    const guess = new Visitor(program.url);
    guess.cookie = `${floor.cookie}x`;
    expect((await guess.call("POST", "/api/runs/999999/stop")).status).not.toBe(404);
  } finally {
    await db.query("alter table sessions_away rename to sessions");
  }
});
