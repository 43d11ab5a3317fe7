import {
  type ArrivalView,
  type ArtworkView,
  type MachineView,
  type RenderView,
  type SheetView,
} from "@hardline/contract";
import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { readRoute } from "@hardline/core/route/route";
import { createServer, request } from "node:http";
import { once } from "node:events";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { nightly } from "../../../e2e/src/nightly";

let databaseUrl: string;
let program: Program;
let ticketId: string;
let routeId: string;
let houseId: string;
let sheetId: string;
const url = (path: string) => `${program.url}${path}`;
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));
const flat = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: "#456" } })
    .png({ compressionLevel: 1 })
    .toBuffer();

beforeAll(async () => {
  databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl, [], { HARDLINE_LEASE_SECONDS: "2" });
  const made = await addTicket(program.url, await flat(60, 40), "tag.png", [
    { stage: "size", widthMm: 20, dotsPerInch: 254 },
    { stage: "cutLine", from: "shape" },
  ]);
  [ticketId, routeId] = [made.ticket.id, made.route.id];
  houseId = (
    await ask<{ id: string }>(url("/api/house-routes"), "POST", { name: "House", route: made.route.route })
  ).id;
  const piece = await ask<RenderView>(url(`/api/routes/${routeId}/piece?bleedMm=0`), "POST");
  while ((await ask<RenderView>(url(`/api/renders/${piece.id}`))).state !== "done") await sleep(50);
  const body = { stock: { widthMm: 300, heightMm: 200 }, pieces: [{ routeId, count: 3 }] };
  sheetId = (await ask<SheetView>(url("/api/sheets"), "POST", { name: "Sheet", body })).id;
});
afterAll(() => program?.stop());

async function say(
  method: string,
  path: string,
  json?: unknown,
): Promise<{ status: number; detail: string; text: string }> {
  const response = await fetch(url(path), {
    method,
    body: json === undefined ? undefined : typeof json === "string" ? json : JSON.stringify(json),
    headers: { "Content-Type": "application/json" },
  });
  const text = await response.text();
  return {
    status: response.status,
    text,
    detail: (JSON.parse(text || "{}") as { detail?: string }).detail ?? "",
  };
}

const placing = { piece: 0, sheet: 0, xMm: 60, yMm: 60, turnDegrees: 0, mirrored: false };
const [{ key: _slate, ...material }] = USUAL_MATERIALS;

/** Every column of JSON that somebody outside fills, by how it is written and read; and what it must not take. */
const COLUMNS: readonly (readonly [
  column: string,
  write: () => readonly [method: string, path: string],
  read: () => string,
  good: () => Promise<object>,
  bad: readonly (readonly [what: string, change: object, why: RegExp])[],
])[] = [
  [
    "sheets.placings, sheets.revisions, sheets.body",
    () => ["PUT", `/api/sheets/${sheetId}`],
    () => `/api/sheets/${sheetId}`,
    async () => {
      const { version, body, name } = await ask<SheetView>(url(`/api/sheets/${sheetId}`));
      return {
        name,
        version,
        body,
        placings: [placing, { ...placing, xMm: 120, kept: true }],
        revisions: { [routeId]: 2 },
      };
    },
    [
      ["a placing that is null", { placings: [null] }, /placings\[0\] is null/],
      ["a placing that is a number", { placings: [5] }, /placings\[0\] is 5/],
      [
        "a piece that the sheet has not",
        { placings: [{ ...placing, piece: 7 }] },
        /placings\[0\]\.piece is 7; allowed: 0 to 0/,
      ],
      [
        "a piece laid by hand that the sheet has not",
        { body: { stock: { widthMm: 300, heightMm: 200 }, kept: [placing] } },
        /kept\[0\]\.piece/,
      ],
      ["a revision that is no number", { revisions: { "1": "abc" } }, /1 is "abc"/],
      ["a route that is no number", { revisions: { x: 1 } }, /x/],
      ["places at infinity", { placings: [{ ...placing, xMm: 1e300 }] }, /xMm is 1e\+300/],
      ["placings that are null", { placings: null }, /null/],
      ["more copies than there may be", { placings: Array(10001).fill(placing) }, /10000/],
    ],
  ],
  [
    "curves.body",
    () => ["POST", "/api/materials/slate/curves"],
    () => "/api/materials/slate/curves",
    async () => ({
      readings: [
        [10, 20],
        [30, 45],
        [50, 66],
        [80, 92],
      ],
    }),
    [
      ["a reading that is null", { readings: [[10, 20], null, [50, 66], [80, 92]] }, /readings\.1 is null/],
      ["a reading that is false", { readings: [[10, 20], false, [50, 66]] }, /readings\.1 is false/],
      ["a reading that is 0", { readings: [0, 0, 0] }, /readings\.0 is 0/],
      [
        "a reading with null in it",
        {
          readings: [
            [10, null],
            [30, 45],
            [50, 66],
          ],
        },
        /readings\.0\.1 is null/,
      ],
      [
        "steps that are all but one",
        {
          readings: [
            [10, 20],
            [10.00001, 45],
            [50, 66],
            [80, 92],
          ],
        },
        /each step once/,
      ],
      ["readings that are null", { readings: null }, /null/],
    ],
  ],
  [
    "batches.route, renders.wish",
    () => ["POST", "/api/batches"],
    () => "/api/batches",
    async () => ({ name: "B", houseRouteId: houseId, items: [{ name: "x", text: "Ann" }] }),
    [
      [
        "an item with neither picture nor text",
        { items: [{ name: "x" }] },
        /items\[0\] .* with artworkId, text, or both/,
      ],
      ["an item of blanks", { items: [{ name: "x", text: "  " }] }, /not blanks alone/],
      ["an item that is null", { items: [null] }, /items\[0\] is null/],
      ["an item with more", { items: [{ name: "x", text: "a", extra: 1 }] }, /items\[0\]\.extra/],
      [
        "an item's picture that is no number",
        { items: [{ name: "x", artworkId: "1;drop" }] },
        /artworkId is "1;drop"/,
      ],
      ["more items than there may be", { items: Array(5001).fill({ name: "x", text: "a" }) }, /5000/],
      ["no list", { items: { length: 3 } }, /a list/],
    ],
  ],
  [
    "machines.body",
    () => ["PUT", "/api/machines"],
    () => "/api/machines",
    async () => {
      const [{ machine, version }] = await ask<MachineView[]>(url("/api/machines"));
      return { machine, version, host: "127.0.0.1", port: 4999 };
    },
    [
      [
        "a bed of no width",
        { machine: { ...USUAL_MACHINES[0], bed: { widthMm: 0, heightMm: 5 } } },
        /bed\.widthMm is 0/,
      ],
      ["another kind", { machine: { ...USUAL_MACHINES[0], kind: "loom" } }, /bed-laser/],
      ["a host with a path", { host: "127.0.0.1/x?y" }, /host/],
      ["a host with a port", { host: "127.0.0.1:80" }, /host/],
      ["a host elsewhere", { host: "10.1.2.3" }, /not where machines may be: 127\.0\.0\.0\/8/],
      ["a host that is a number of another kind", { host: "0x7f000001.evil" }, /host/],
      ["a floor that is null", { floor: null }, /floor/],
    ],
  ],
  [
    "materials.body",
    () => ["PUT", "/api/materials/slate"],
    () => "/api/materials",
    async () => {
      const { version } = (await ask<{ key: string; version: number }[]>(url("/api/materials"))).find(
        (m) => m.key === "slate",
      )!;
      return { ...material, version };
    },
    [
      ["a pattern that is none", { pattern: "plaid" }, /pattern/],
      ["dots that are null", { dotMm: null }, /dotMm/],
    ],
  ],
  [
    "route_revisions.body, parts.body",
    () => ["PUT", `/api/routes/${routeId}`],
    () => `/api/routes/${routeId}`,
    async () => {
      const { version } = await ask<{ version: number }>(url(`/api/routes/${routeId}`));
      return {
        version,
        route: readRoute({ format: "hard-line-route", version: 1, name: "R", stages: [{ stage: "tone" }] }),
      };
    },
    [
      [
        "a stage nobody knows",
        { route: { format: "hard-line-route", version: 1, name: "R", stages: [{ stage: "fry" }] } },
        /fry/,
      ],
      [
        "a stage that is null",
        { route: { format: "hard-line-route", version: 1, name: "R", stages: [null] } },
        /null/,
      ],
    ],
  ],
  [
    "house_routes.body",
    () => ["POST", "/api/house-routes"],
    () => "/api/house-routes",
    async () => ({
      name: `House ${Date.now()}`,
      route: readRoute({ format: "hard-line-route", version: 1, name: "R", stages: [] }),
    }),
    [["a name of blanks, which no route has", { name: "   " }, /name/]],
  ],
];

describe.each(COLUMNS)("%s", (_column, write, read, good, bad) => {
  test.each(bad)("%s is refused with why, and changes nothing", async (_what, change, why) => {
    const before = await (await fetch(url(read()))).text();
    const { status, detail } = await say(...write(), { ...(await good()), ...change });
    expect([400, 413, 422]).toContain(status);
    expect(detail).toMatch(why);
    expect(await (await fetch(url(read()))).text()).toBe(before);
  });

  test("what is taken reads back", async () => {
    const given = await good();
    const { status } = await say(...write(), given);
    expect([200, 201]).toContain(status);
    const after = await fetch(url(read()));
    expect(after.status).toBe(200);
    expect(await after.json()).toBeTruthy();
    if (read() === `/api/sheets/${sheetId}`)
      expect(await ask(url(read()))).toMatchObject({
        placings: (given as { placings: object[] }).placings,
        placed: 2,
      });
  });
});

test("a batch of thousands that are wrong is told in a moment, with the first", async () => {
  const items = Array(5000).fill({});
  expect(await say("POST", "/api/batches", { name: "B", houseRouteId: houseId, items })).toMatchObject({
    status: 400,
  });
  const many = `{"name":"B","houseRouteId":"1","items":[${"{},".repeat(1000000)}{}]}`;
  expect(await say("POST", "/api/batches", many)).toMatchObject({
    status: 413,
    detail: expect.stringMatching(/objects; 10200/),
  });
  const large = JSON.stringify({ piece: "x".repeat(80000) });
  expect(await say("PATCH", `/api/tickets/${ticketId}`, large)).toMatchObject({
    status: 413,
    detail: "The body is larger than 64 kB.",
  });
});

test("eight curves at once are eight versions", async () => {
  const readings = [
    [10, 20],
    [30, 45],
    [50, 66],
    [80, 92],
  ];
  const known = (await ask<unknown[]>(url("/api/materials/pale-wood/curves"))).length;
  const made = await Promise.all(
    Array.from({ length: 8 }, () =>
      ask<{ version: number }>(url("/api/materials/pale-wood/curves"), "POST", { readings }),
    ),
  );
  expect(made.map((c) => c.version).sort((a, b) => a - b)).toEqual(made.map((_c, k) => known + k + 1));
});

test("two files of one name in a batch's archive both have one, with its ending", async () => {
  const items = [1, 2, 3].map(() => ({ name: "same", text: "Bo" }));
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "T",
    stages: [{ stage: "size", heightMm: 5 }, { stage: "trace" }],
  });
  const house = await ask<{ id: string }>(url("/api/house-routes"), "POST", { name: "Letters", route });
  const { id } = await ask<{ id: string }>(url("/api/batches"), "POST", {
    name: "Same",
    houseRouteId: house.id,
    items,
  });
  for (let k = 0; k < 300; k++) {
    const { counts } = await ask<{ counts: Record<string, number> }>(url(`/api/batches/${id}`));
    if (counts.done === 3) break;
    await sleep(50);
  }
  const zip = Buffer.from(await (await fetch(url(`/api/batches/${id}/zip`))).arrayBuffer()).toString(
    "latin1",
  );
  const all = [...zip.matchAll(/[\w.-]+\.svg/g)].map(([name]) => name);
  expect(new Set(all).size).toBeGreaterThan(2);
  expect(zip).not.toMatch(/\.(svg|json|png)-\d/);
});

test("a page that says it came by TLS is not this program's", async () => {
  const { port } = new URL(program.url);
  const status = (origin: string) =>
    new Promise<number>((done) => {
      const headers = { Host: `127.0.0.1:${port}`, Origin: origin, "Content-Type": "application/json" };
      request(
        { port, host: "127.0.0.1", path: `/api/tickets/${ticketId}`, method: "PATCH", headers },
        (r) => {
          r.resume();
          done(r.statusCode!);
        },
      ).end("{}");
    });
  expect([await status(`http://127.0.0.1:${port}`), await status(`https://127.0.0.1:${port}`)]).toEqual([
    200, 403,
  ]);
});

test("a machine's floor that is something else gives nothing away: no redirect, nothing that is no picture", async () => {
  const asked: string[] = [];
  const inside = createServer((r, response) => {
    asked.push(r.url!);
    if (r.url === "/secret") return void response.end("the secret of another server");
    if (r.url === "/") return void response.writeHead(302, { Location: "/secret" }).end();
    response.setHeader("Content-Type", "image/png");
    response.end("the secret of another server");
  }).listen(0, "127.0.0.1");
  await once(inside, "listening");
  const { port } = inside.address() as { port: number };
  const [{ machine, version }] = await ask<MachineView[]>(url("/api/machines"));
  await ask(url("/api/machines"), "PUT", { machine, version, host: "127.0.0.1", port: 1, floor: port });
  const client = new pg.Client(databaseUrl);
  await client.connect();
  const plan = {
    bitmap: { width: 5, height: 5, dotsPerInch: 254, sha256: "x" },
    at: [0, 0],
    passes: [{ use: "bitmap", lines: [1, 2] }],
    lines: 5,
  };
  const { rows } = await client.query(
    "insert into runs (machine_key, name, wish, state, plan) values ($1, 'n', '{}', 'done', $2) returning id",
    [machine.key, JSON.stringify(plan)],
  );
  const photo = await say("GET", `/api/runs/${rows[0].id}/photo`);
  expect([photo.status, photo.detail]).toEqual([
    409,
    "What is said to be the machine's floor answers with 302.",
  ]);
  expect(asked).toEqual(["/"]);
  expect(photo.text).not.toContain("secret");
  inside.close();
  inside.closeAllConnections();
  const closed = await say("GET", `/api/runs/${rows[0].id}/photo`);
  expect([closed.status, closed.detail]).toEqual([
    409,
    "The machine's floor does not answer. Is it switched on?",
  ]);
  await client.end();
});

nightly(
  "a large picture is answered at once and followed; its server killed meanwhile, another takes it in; known, it is there at once",
  async () => {
    const large = await flat(5200, 3300);
    const send = () =>
      fetch(url("/api/artworks?name=large.png"), { method: "POST", body: new Uint8Array(large) });
    const answer = await send();
    expect(answer.status).toBe(202);
    const arrival = (await answer.json()) as ArrivalView;
    expect(answer.headers.get("location")).toBe(`/api/arrivals/${arrival.id}`);
    await sleep(300);
    await program.kill();
    program = await startProgram(databaseUrl, [], { HARDLINE_LEASE_SECONDS: "2" });
    const doings = new Set<string>();
    let now = await ask<ArrivalView>(url(`/api/arrivals/${arrival.id}`));
    for (let k = 0; k < 600 && now.state !== "done" && now.state !== "failed"; k++) {
      doings.add(now.doing);
      await sleep(50);
      now = await ask<ArrivalView>(url(`/api/arrivals/${arrival.id}`));
    }
    expect([now.state, now.error, now.progress]).toEqual(["done", null, 1]);
    expect(now.artwork).toMatchObject({ width: 5200, height: 3300, name: "large.png" });
    expect(doings.size).toBeGreaterThan(1);
    const again = await send();
    expect([again.status, ((await again.json()) as ArtworkView).id]).toEqual([201, now.artwork!.id]);
    const broken = await fetch(url("/api/artworks?name=broken.png"), {
      method: "POST",
      body: new Uint8Array(large.subarray(0, 90000)),
    });
    const refused = broken.status === 202 ? ((await broken.json()) as ArrivalView) : null;
    if (!refused) return void expect(broken.status).toBe(422);
    for (let k = 0; k < 300; k++) {
      const { state, error } = await ask<ArrivalView>(url(`/api/arrivals/${refused.id}`));
      if (state === "failed") return void expect(error).toBeTruthy();
      await sleep(50);
    }
    throw new Error("a broken picture was neither refused nor failed");
  },
);
