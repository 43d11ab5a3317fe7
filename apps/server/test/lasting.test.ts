import { type ArtworkView, type RenderView, type RouteView, type TicketView } from "@hardline/contract";
import { withSettings } from "@hardline/core/route/route";
import { once } from "node:events";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { unzipSync } from "fflate";

const picture = (seed: number) =>
  sharp(Buffer.from(Uint8Array.from({ length: 120 * 80 * 3 }, (_, i) => (i * 31 * seed) % 255)), {
    raw: { width: 120, height: 80, channels: 3 },
  })
    .png()
    .toBuffer();
const ROUTE = [{ stage: "size", widthMm: 20, dotsPerInch: 254 }, { stage: "tone" }, { stage: "blackWhite" }];
const running: Program[] = [];
/** Started for one test, and ended with it however that goes. */
async function start(...args: Parameters<typeof startProgram>): Promise<Program> {
  const program = await startProgram(...args);
  running.push(program);
  return program;
}
afterEach(async () => {
  await Promise.all(running.splice(0).map((program) => program.kill()));
});
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));
const upload = (program: Program, bytes: Uint8Array, type = "image/svg+xml") =>
  fetch(`${program.url}/api/artworks?name=a`, {
    method: "POST",
    body: bytes as Uint8Array<ArrayBuffer>,
    headers: { "Content-Type": type },
  });
/** A query on the same database, by a connection of one's own. */
async function asked<T extends object>(databaseUrl: string, text: string): Promise<T[]> {
  const client = new pg.Client(databaseUrl);
  await client.connect();
  const { rows } = await client.query<T>(text);
  await client.end();
  return rows;
}

/** Shapes that take a decoder minutes: masks and blurs within each other. */
const endless = (seed: number): Buffer => {
  const masks = Array.from(
    { length: 14 },
    (_, k) =>
      `<filter id="f${k}"><feTurbulence baseFrequency="0.0${seed}${k}" numOctaves="9"/><feGaussianBlur stdDeviation="90"/></filter>` +
      `<mask id="m${k}"><g filter="url(#f${k})">${k ? `<g mask="url(#m${k - 1})"><rect width="4000" height="4000" fill="#fff"/></g><g mask="url(#m${k - 1})"><rect width="4000" height="4000"/></g>` : '<rect width="4000" height="4000" fill="#fff"/>'}</g></mask>`,
  );
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><defs>${masks.join("")}</defs><rect width="4000" height="4000" mask="url(#m13)"/></svg>`,
  );
};

test("drawings without end hold up nobody, are refused in time and not tried again; SIGTERM ends all", async () => {
  const program = await start(await newDatabase(), ["--role=server"], { HARDLINE_DRAW_SECONDS: "3" });
  const hostile = [1, 2, 3, 4].map((seed) => upload(program, endless(seed)));
  await sleep(300);
  for (let k = 0; k < 5; k++) {
    expect(await ask(`${program.url}/api/health`)).toEqual({ status: "up" });
    const small = (await (await upload(program, await picture(k + 2), "image/png")).json()) as ArtworkView;
    expect(small.width).toBe(120); // taken in while they are at work
  }
  const [first] = await Promise.all(hostile);
  expect(first.status).toBe(422);
  expect(((await first.json()) as { detail: string }).detail).toMatch(/more than 3 s to be read/);
  const again = performance.now();
  expect((await upload(program, endless(1))).status).toBe(422);
  expect(performance.now() - again).toBeLessThan(3000); // it is known by now
  void upload(program, endless(5)).catch(() => undefined); // at work when the end comes
  await sleep(200);
  await program.stop();
  expect(program.process.exitCode).toBe(0);
}, 120000);

test("a width that was drawn is kept: asked again, by two at once too, it is the same file", async () => {
  const base = await newDatabase();
  const program = await start(base, ["--role=server"]);
  const svg = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="1"><rect width="200" height="1"/></svg>',
  );
  const { id } = (await (await upload(program, svg)).json()) as ArtworkView;
  const drawn = async (width: number) =>
    Buffer.from(await (await fetch(`${program.url}/api/artworks/${id}/pixels?width=${width}`)).arrayBuffer());
  const [one, two] = await Promise.all([drawn(800), drawn(800)]);
  const wide = await drawn(40000); // as wide as the server's own renders go
  expect((await sharp(wide, { limitInputPixels: false }).metadata()).width).toBe(40000);
  expect([one.equals(two), one.equals(await drawn(800))]).toEqual([true, true]);
  expect(await asked(base, "select width from drawings order by width")).toEqual([
    { width: 800 },
    { width: 40000 },
  ]);
  await program.stop();
});

test("database connections that end one after another, at work and idle, end nothing else", async () => {
  const base = await newDatabase();
  const program = await start(base);
  const { ticket, route } = await addTicket(program.url, await picture(1), "p.png", ROUTE);
  let r = route;
  let kept = 0;
  const told: number[] = [];
  for (let k = 1; k <= 40; k++) {
    const cut = asked(
      base,
      "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
    );
    const next = withSettings(route.route, "tone", { black: k / 100 });
    const answer = await fetch(`${program.url}/api/routes/${route.id}`, {
      method: "PUT",
      body: JSON.stringify({ version: r.version, route: next }),
      headers: { "Content-Type": "application/json" },
    });
    await cut;
    if (answer.ok) {
      r = (await answer.json()) as RouteView;
      kept++;
      expect(r.route).toEqual(next);
    } else {
      told.push(answer.status);
      r = await ask<RouteView>(`${program.url}/api/routes/${route.id}`);
    }
  }
  expect(program.process.exitCode).toBeNull();
  expect(told.filter((status) => status !== 503)).toEqual([]);
  expect(kept).toBeGreaterThan(20);
  const render = await ask<RenderView>(`${program.url}/api/routes/${route.id}/renders`, "POST");
  for (;;) {
    const { state } = await ask<RenderView>(`${program.url}/api/renders/${render.id}`);
    if (state === "done") break;
    expect(state).not.toBe("failed");
    await sleep(100);
  }
  expect(await ask<TicketView>(`${program.url}/api/tickets/${ticket.id}`)).toMatchObject({
    state: "handed over",
  });
  await program.stop();
}, 120000);

test("a worker that stood still while another did its render writes nothing when it goes on", async () => {
  const base = await newDatabase();
  const lease = { HARDLINE_LEASE_SECONDS: "3" };
  const server = await start(base, ["--role=server"], lease);
  const large = [
    { stage: "size", widthMm: 150, dotsPerInch: 500 },
    { stage: "tone" },
    { stage: "blackWhite" },
  ];
  const { route } = await addTicket(server.url, await picture(6), "p.png", large);
  const slow = await start(base, ["--role=worker"], lease);
  const { id } = await ask<RenderView>(`${server.url}/api/routes/${route.id}/renders`, "POST", {});
  const row = async () => (await asked<Record<string, unknown>>(base, "select * from renders"))[0];
  while ((await row()).state !== "running") await sleep(20);
  slow.process.kill("SIGSTOP");
  const held = await row();
  expect([held.state, held.attempts]).toEqual(["running", 1]);
  const second = await start(base, ["--role=worker"], lease);
  for (let state = ""; state !== "done"; await sleep(100))
    state = (await ask<RenderView>(`${server.url}/api/renders/${id}`)).state;
  await second.stop();
  const done = await row();
  expect(done.attempts).toBeGreaterThan(1);
  slow.process.kill("SIGCONT");
  await sleep(4000);
  expect(slow.process.exitCode).toBeNull();
  // Neither progress nor files, neither state nor a sign of life.
  expect(await row()).toEqual(done);
  await Promise.all([server.stop(), slow.stop()]);
}, 90000);

test("a render whose place in the queue was lost is found", async () => {
  const base = await newDatabase();
  // Longer than a busy machine keeps a worker from saying that it lives: its render would be taken for lost.
  const lease = { HARDLINE_LEASE_SECONDS: "3" };
  const server = await start(base, ["--role=server"], lease);
  const { route } = await addTicket(server.url, await picture(3), "p.png", ROUTE);
  const { id } = await ask<RenderView>(`${server.url}/api/routes/${route.id}/renders`, "POST");
  await asked(base, "delete from pgboss.job where name = 'render'");
  await asked(base, "update renders set created_at = created_at - interval '1 hour'"); // waited long
  const worker = await start(base, ["--role=worker"], lease);
  for (let state = ""; state !== "done"; await sleep(100))
    state = (await ask<RenderView>(`${server.url}/api/renders/${id}`)).state;
  const [row] = await asked<{ attempts: number }>(base, "select attempts from renders");
  expect(row.attempts).toBe(1);
  await Promise.all([server.stop(), worker.stop()]);
}, 60000);

test("an open stream on a render that waits does not keep the server from ending", async () => {
  const server = await start(await newDatabase(), ["--role=server"]);
  const { route } = await addTicket(server.url, await picture(4), "p.png", ROUTE);
  const { id } = await ask<RenderView>(`${server.url}/api/routes/${route.id}/renders`, "POST");
  const stream = await fetch(`${server.url}/api/renders/${id}/events`);
  const reader = stream.body!.getReader();
  await reader.read();
  const ended = once(server.process, "exit");
  server.process.kill("SIGTERM");
  const [code] = (await ended) as [number];
  expect(code).toBe(0);
  await reader.cancel().catch(() => undefined);
}, 60000);

test("a save whose answer was lost may be sent again; of a ticket there is never half", async () => {
  const base = await newDatabase();
  const server = await start(base, ["--role=server"]);
  const { route, ticket } = await addTicket(server.url, await picture(5), "p.png", ROUTE);
  const body = { version: route.version, route: withSettings(route.route, "tone", { black: 0.3 }) };
  const first = await ask<RouteView>(`${server.url}/api/routes/${route.id}`, "PUT", body);
  expect(await ask<RouteView>(`${server.url}/api/routes/${route.id}`, "PUT", body)).toEqual(first);
  await asked(base, "alter table route_revisions rename to away");
  const answer = await fetch(`${server.url}/api/tickets`, {
    method: "POST",
    body: JSON.stringify({ artworkId: ticket.artwork.id }),
    headers: { "Content-Type": "application/json" },
  });
  expect(answer.status).toBe(500);
  await asked(base, "alter table away rename to route_revisions");
  expect(await asked(base, "select count(*)::int as n from tickets")).toEqual([{ n: 1 }]);
  await server.stop();
});

test("what nobody can come to any more is removed, what somebody can is not", async () => {
  const base = await newDatabase();
  const program = await start(base, [], { HARDLINE_COLLECT_AFTER_SECONDS: "6" });
  const { ticket, route } = await addTicket(program.url, await picture(6), "p.png", ROUTE);
  const lone = (await (await upload(program, await picture(7), "image/png")).json()) as ArtworkView;
  const render = await ask<RenderView>(`${program.url}/api/routes/${route.id}/renders`, "POST");
  let r = route;
  for (let k = 1; k <= 4; k++) {
    r = await ask<RouteView>(`${program.url}/api/routes/${route.id}`, "PUT", {
      version: r.version,
      route: withSettings(r.route, "tone", { black: k / 50 }),
    });
    await ask(`${program.url}/api/routes/${route.id}/findings`, "PUT", {
      ...{ revision: r.revision, looks: 0, stops: 0, thumbnail: (await picture(20 + k)).toString("base64") },
    });
  }
  const done = async () =>
    (await ask<RenderView>(`${program.url}/api/renders/${render.id}`)).state === "done";
  while (!(await done())) await sleep(100);
  const gone = async () => (await fetch(`${program.url}/api/artworks/${lone.id}/original`)).status === 404;
  while (!(await gone())) await sleep(200);
  const named = () =>
    asked<{ sha256: string }>(
      base,
      `select sha256 from (
         select unnest(array[sha256, pixels_sha256, thumbnail_sha256]) as sha256 from artworks
         union select sha256 from artwork_halves
         union select v.thumbnail_sha256 from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
         union select f->>'sha256' from renders, jsonb_array_elements(files) f) n order by 1`,
    );
  const blobs = () => asked<{ sha256: string }>(base, "select sha256 from blobs order by 1");
  // What is left over goes in the next round or the one after.
  for (let k = 0; k < 100 && (await blobs()).length > (await named()).length; k++) await sleep(300);
  await sleep(7000); // and a round more takes nothing that is named
  expect(await blobs()).toEqual(await named());
  const { thumbnail, artwork } = await ask<TicketView>(`${program.url}/api/tickets/${ticket.id}`);
  for (const path of [
    thumbnail,
    `/api/artworks/${artwork.id}/original`,
    `/api/artworks/${artwork.id}/pixels`,
  ])
    expect((await (await fetch(`${program.url}${path}`)).arrayBuffer()).byteLength).toBeGreaterThan(100);
  const zip = unzipSync(
    new Uint8Array(await (await fetch(`${program.url}/api/renders/${render.id}/zip`)).arrayBuffer()),
  );
  expect(Object.keys(zip).length).toBeGreaterThan(4);
  await program.stop();
}, 60000);
