import {
  type ArtworkView,
  type Problem,
  type RenderView,
  type RouteView,
  type TicketsView,
  type TicketView,
} from "@hardline/contract";
import { runToEnd } from "@hardline/core/maths/work";
import { dotsFingerprint } from "@hardline/core/raster/fingerprint";
import { bitAt } from "@hardline/core/raster/types";
import { as } from "@hardline/core/result/result";
import { readRoute, withSettings, type Route } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { takeIn } from "@hardline/intake";
import { unzipSync } from "fflate";
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { request } from "node:http";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { nightly } from "../../../e2e/src/nightly";

let program: Program;
let databaseUrl: string;
let photo: Buffer;

const png = (width: number, height: number, seed = 1) =>
  sharp(
    Buffer.from(
      Uint8Array.from(
        { length: width * height * 3 },
        (_, i) => ((i / 3) % width) * (200 / width) + ((i * 7919 * seed) % 50),
      ),
    ),
    { raw: { width, height, channels: 3 } },
  )
    .png()
    .toBuffer();
const ROUTE = [
  { stage: "size", widthMm: 20, dotsPerInch: 254 },
  { stage: "tone" },
  { stage: "blackWhite", kernel: "stucki" },
];
const url = (path: string) => `${program.url}${path}`;
const upload = (bytes: Uint8Array, name = "a.png") =>
  fetch(url(`/api/artworks?name=${encodeURIComponent(name)}`), {
    method: "POST",
    body: bytes as Uint8Array<ArrayBuffer>,
  });

async function refused(path: string, method: string, json?: unknown): Promise<Problem> {
  const response = await fetch(url(path), {
    method,
    body: json === undefined ? undefined : JSON.stringify(json),
    headers: { "Content-Type": "application/json" },
  });
  expect(response.headers.get("content-type")).toContain("application/problem+json");
  const problem = (await response.json()) as Problem;
  expect(problem.status).toBe(response.status);
  return problem;
}

async function finished(base: string, id: string): Promise<RenderView> {
  for (;;) {
    const render = await ask<RenderView>(`${base}/api/renders/${id}`);
    if (render.state === "done" || render.state === "failed") return render;
    await new Promise((r) => setTimeout(r, 100));
  }
}

beforeAll(async () => {
  databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl);
  photo = await png(120, 80);
});
afterAll(() => program?.stop());

describe("health and description", () => {
  test("says that it is up, and describes itself", async () => {
    expect(await ask(url("/api/health"))).toEqual({ status: "up" });
    const api = await ask<{ paths: object; components: { schemas: Record<string, unknown> } }>(
      url("/api/openapi.json"),
    );
    expect(Object.keys(api.paths)).toEqual(
      expect.arrayContaining(["/api/tickets/{id}", "/api/routes/{id}", "/api/renders/{id}/events"]),
    );
    expect(api.components.schemas.NewTicket).toMatchObject({
      required: expect.arrayContaining(["artworkId"]),
    });
  });
});

describe("artworks", () => {
  test("are kept byte for byte, once, under a name fit for a file", async () => {
    const first = (await (await upload(photo, "../a b\\c/Harbour.JPEG")).json()) as ArtworkView;
    expect(first).toMatchObject({
      name: "Harbour.png",
      kind: "PNG",
      width: 120,
      height: 80,
      bytes: photo.length,
    });
    const again = (await (await upload(photo, "other.png")).json()) as ArtworkView;
    expect(again.id).toBe(first.id);
    const back = await fetch(url(`/api/artworks/${first.id}/original`));
    expect(back.headers.get("content-disposition")).toContain('filename="Harbour.png"');
    expect(Buffer.from(await back.arrayBuffer()).equals(photo)).toBe(true);
  });

  test("are read on arrival: kind, ground and largest size come with them", async () => {
    const flat = await sharp({ create: { width: 300, height: 200, channels: 3, background: "#ffffff" } })
      .composite([
        {
          input: Buffer.from(
            `<svg width="300" height="200"><rect x="80" y="50" width="120" height="90" fill="#20508f"/></svg>`,
          ),
        },
      ])
      .png()
      .toBuffer();
    const { reading } = (await (await upload(flat, "flat.png")).json()) as ArtworkView;
    expect(reading).toMatchObject({
      kind: "flat art",
      ground: { colour: "#ffffff", share: 1 },
      realWidth: 300,
      enlarged: 1,
    });
    expect(reading!.largest![0]).toEqual({ dotsPerInch: 150, widthMm: 50.8, heightMm: 33.9 });
  });

  test("are decoded once: the pixels are those of the file, upright", async () => {
    const turned = await sharp(await png(30, 20, 5))
      .withMetadata({ orientation: 6 })
      .jpeg({ quality: 95 })
      .toBuffer();
    const { id, width, height, notes } = (await (await upload(turned, "t.jpg")).json()) as ArtworkView;
    expect([width, height, notes]).toEqual([20, 30, ["turned upright by its tag"]]);
    const pixels = Buffer.from(await (await fetch(url(`/api/artworks/${id}/pixels`))).arrayBuffer());
    const decoded = await sharp(pixels).ensureAlpha().raw().toBuffer();
    expect(decoded.equals(Buffer.from((await (await takeIn(turned)).pixels()).data))).toBe(true);
  });

  test("made of shapes are drawn at the width asked for", async () => {
    const svg = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="20" height="20"/></svg>',
    );
    const { id, vector } = (await (await upload(svg, "s.svg")).json()) as ArtworkView;
    expect(vector).toBe(true);
    const drawn = await (await fetch(url(`/api/artworks/${id}/pixels?width=400`))).arrayBuffer();
    expect(await sharp(Buffer.from(drawn)).metadata()).toMatchObject({ width: 400, height: 200 });
    expect(await refused(`/api/artworks/${id}/pixels?width=0`, "GET")).toMatchObject({
      status: 400,
      detail: expect.stringContaining("width is 0; allowed"),
    });
  });

  test.each([
    ["nothing", async () => Buffer.alloc(0), /empty/],
    ["a text", async () => Buffer.from("hello"), /PNG, JPEG/],
    ["half a picture", async () => (await png(200, 200)).subarray(0, 900), /broken/],
  ] as const)("%s is refused with the reason", async (_what, make, reason) => {
    const response = await upload(await make());
    expect(response.status).toBe(422);
    expect(((await response.json()) as Problem).detail).toMatch(reason);
  });

  test("too many bytes are refused before they are read", async () => {
    const { status, body } = await new Promise<{ status: number; body: string }>((done, failed) => {
      const call = request(
        url("/api/artworks?name=huge.png"),
        { method: "POST", headers: { "Content-Length": 300 * 1048576 } },
        (response) => {
          let body = "";
          response.on("data", (chunk: Buffer) => (body += chunk.toString()));
          response.on("end", () => done({ status: response.statusCode!, body }));
        },
      );
      call.on("error", failed);
      call.write("x");
    });
    expect(status).toBe(413);
    expect(body).toContain("The file has 300 MB; 200 MB or less is taken.");
  });
});

describe("tickets", () => {
  test("start with an artwork and a first route, are changed, archived and brought back", async () => {
    const { id } = (await (await upload(await png(50, 40, 2), "harbour-light_2.png")).json()) as ArtworkView;
    const ticket = await ask<TicketView>(url("/api/tickets"), "POST", {
      artworkId: id,
      customer: "Skerry Light",
    });
    expect(ticket).toMatchObject({
      piece: "Harbour light 2",
      customer: "Skerry Light",
      pieces: 1,
      state: "draft",
      due: null,
    });
    expect(ticket.number).toBeGreaterThanOrEqual(1042);
    expect(ticket.routes).toHaveLength(1);
    const changed = await ask<TicketView>(url(`/api/tickets/${ticket.id}`), "PATCH", {
      due: "2026-12-04",
      pieces: 36,
      note: "Łódź ✓",
    });
    expect(changed).toMatchObject({
      due: "2026-12-04",
      pieces: 36,
      note: "Łódź ✓",
      customer: "Skerry Light",
    });
    const numbers = async (archived: boolean) =>
      (await ask<TicketsView>(url(`/api/tickets?state=${archived ? "archived" : "all"}`))).tickets.map(
        (t) => t.number,
      );
    expect(await numbers(false)).toContain(ticket.number);
    expect(await ask<TicketView>(url(`/api/tickets/${ticket.id}/archive`), "POST")).toMatchObject({
      state: "archived",
    });
    expect(await numbers(false)).not.toContain(ticket.number);
    expect(await numbers(true)).toContain(ticket.number);
    expect(await ask<TicketView>(url(`/api/tickets/${ticket.id}/restore`), "POST")).toMatchObject({
      state: "draft",
    });
  });

  test("refusals name the field, its value and what is allowed", async () => {
    const { ticket } = await addTicket(program.url, photo, "p.png", ROUTE);
    const problem = await refused(`/api/tickets/${ticket.id}`, "PATCH", { pieces: 0, colour: "red" });
    expect(problem).toMatchObject({ status: 400, title: "Not valid" });
    expect(problem.detail).toContain("there is no field colour");
    expect(problem.detail).toContain("pieces is 0; it must not be less than 1");
    expect(problem.errors!.map((e) => e.field).sort()).toEqual(["colour", "pieces"]);
    expect(await refused("/api/tickets/999999", "GET")).toMatchObject({
      status: 404,
      detail: "There is no ticket 999999.",
    });
    expect(await refused("/api/tickets/x", "GET")).toMatchObject({ status: 400 });
    expect(await refused("/api/tickets", "POST", { artworkId: "999999" })).toMatchObject({ status: 404 });
    expect(await refused("/api/nowhere", "GET")).toMatchObject({ status: 404 });
  });

  test("what was found counts for the board", async () => {
    const { ticket, route } = await addTicket(program.url, photo, "p.png", ROUTE);
    const state = async () => (await ask<TicketView>(url(`/api/tickets/${ticket.id}`))).state;
    const find = (looks: number, stops: number) =>
      ask(url(`/api/routes/${route.id}/findings`), "PUT", {
        revision: route.revision,
        looks,
        stops,
        thumbnail: photo.toString("base64"),
      });
    await find(2, 0);
    expect(await ask<TicketView>(url(`/api/tickets/${ticket.id}`))).toMatchObject({
      state: "to look at",
      looks: 2,
    });
    await find(1, 1);
    expect(await state()).toBe("to stop");
    await find(0, 0);
    expect(await state()).toBe("ready");
    const { thumbnail } = await ask<TicketView>(url(`/api/tickets/${ticket.id}`));
    expect(Buffer.from(await (await fetch(url(thumbnail))).arrayBuffer()).equals(photo)).toBe(true);
    await ask(url(`/api/routes/${route.id}`), "PUT", {
      version: route.version,
      route: withSettings(route.route, "tone", { black: 0.1 }),
    });
    expect(await state()).toBe("draft"); // the new revision has not been looked at
  });
});

describe("routes", () => {
  const black = (route: Route, value: number) => withSettings(route, "tone", { black: value });
  const save = (r: RouteView, value: number) =>
    ask<RouteView>(url(`/api/routes/${r.id}`), "PUT", { version: r.version, route: black(r.route, value) });
  const step = (r: RouteView, which: "undo" | "redo") =>
    ask<RouteView>(url(`/api/routes/${r.id}/${which}`), "POST", { version: r.version });
  const blackOf = (r: RouteView) => r.route.stages.find((s) => s.stage === "tone")!.black;

  test("every save is a revision; undo and redo walk them, a new save after undo starts from there", async () => {
    const { route } = await addTicket(program.url, photo, "p.png", ROUTE);
    let r = await save(await save(route, 0.1), 0.2);
    expect(r).toMatchObject({ revision: route.revision + 2, canUndo: true, canRedo: false });
    r = await step(await step(r, "undo"), "undo");
    expect([blackOf(r), r.canRedo]).toEqual([0, true]);
    r = await step(r, "redo");
    expect(blackOf(r)).toBe(0.1);
    r = await save(r, 0.3);
    expect([blackOf(r), r.canRedo]).toEqual([0.3, false]);
    r = await step(r, "undo");
    expect(blackOf(r)).toBe(0.1);
    r = await step(r, "redo");
    expect(blackOf(r)).toBe(0.3); // the latest of the two that were made from there
  });

  test("saving what stands already makes no revision", async () => {
    const { route } = await addTicket(program.url, photo, "p.png", ROUTE);
    expect(await save(route, 0)).toMatchObject({ revision: route.revision, version: route.version });
  });

  test("of two who save at once one is told, with the route as it now stands", async () => {
    const { route } = await addTicket(program.url, photo, "p.png", ROUTE);
    const attempts = await Promise.allSettled([0.1, 0.2, 0.3, 0.4].map((v) => save(route, v)));
    expect(attempts.filter((a) => a.status === "fulfilled")).toHaveLength(1);
    const problem = await refused(`/api/routes/${route.id}`, "PUT", {
      version: route.version,
      route: black(route.route, 0.5),
    });
    expect(problem.status).toBe(409);
    const current = problem.current as RouteView;
    expect([0.1, 0.2, 0.3, 0.4]).toContain(blackOf(current));
    expect(await save({ ...current, route: route.route }, 0.5)).toMatchObject({
      revision: route.revision + 2,
    });
    expect(await refused(`/api/routes/${route.id}/undo`, "POST", { version: route.version })).toMatchObject({
      status: 409,
    });
  });

  test("a route that cannot be is refused in the words of the route file, and nothing changes", async () => {
    const { route } = await addTicket(program.url, photo, "p.png", ROUTE);
    const bad = { ...route.route, stages: [{ stage: "size", widthMm: 0 }] };
    expect(
      await refused(`/api/routes/${route.id}`, "PUT", { version: route.version, route: bad }),
    ).toMatchObject({
      status: 400,
      detail: "size: widthMm is 0; allowed: 1 or more",
    });
    expect(await ask<RouteView>(url(`/api/routes/${route.id}`))).toEqual(route);
  });

  test("revisions outlive kill -9", async () => {
    const base = await newDatabase();
    let own = await startProgram(base);
    const { route } = await addTicket(own.url, photo, "p.png", ROUTE);
    const saved = await ask<RouteView>(`${own.url}/api/routes/${route.id}`, "PUT", {
      version: route.version,
      route: black(route.route, 0.4),
    });
    await own.kill();
    own = await startProgram(base);
    const back = await ask<RouteView>(`${own.url}/api/routes/${route.id}`);
    expect(back).toEqual(saved);
    const undone = await ask<RouteView>(`${own.url}/api/routes/${route.id}/undo`, "POST", {
      version: back.version,
    });
    expect(undone.route).toEqual(route.route);
    await own.stop();
  });
});

describe("renders", () => {
  test("give files that are what core makes, named so that routes are not confused, and a zip of them", async () => {
    const { ticket, route } = await addTicket(program.url, photo, "p.png", ROUTE, {
      piece: "Häfen & Boote",
      note: "Gift box\nsecond line",
    });
    const asked = await ask<RenderView>(url(`/api/routes/${route.id}/renders`), "POST");
    const progress: number[] = [];
    const events = await fetch(url(`/api/renders/${asked.id}/events`));
    const text = await events.text(); // ends by itself when the render does
    for (const line of text.split("\n").filter((l) => l.startsWith("data:")))
      progress.push((JSON.parse(line.slice(5)) as RenderView).progress);
    expect(progress.at(-1)).toBe(1);
    expect(progress).toEqual([...progress].sort((a, b) => a - b));

    const render = await finished(program.url, asked.id);
    expect(render.state).toBe("done");
    const stem = `${ticket.number}-hafen-boote-try-${route.id}r${route.revision}`;
    expect(render.files.map((f) => f.name)).toEqual(
      ["tone.png", "bitmap.png", "bitmap.tif", "bitmap.pdf", "readings.json", "job-sheet.pdf"].map(
        (n) => `${stem}-${n}`,
      ),
    );

    const results = await new Runner().run(readRoute(route.route), await takeIn(photo));
    const [{ bits }] = as(results[3].result, "plates").plates;
    expect(render.dotsSha256).toBe(runToEnd(dotsFingerprint(bits)));
    const zip = unzipSync(new Uint8Array(await (await fetch(url(render.zipUrl!))).arrayBuffer()));
    expect(Object.keys(zip).sort()).toEqual(render.files.map((f) => f.name).sort());
    for (const f of render.files) {
      expect(createHash("sha256").update(zip[f.name]).digest("hex")).toBe(f.sha256);
      expect(
        Buffer.from(await (await fetch(url(f.url))).arrayBuffer()).equals(Buffer.from(zip[f.name])),
      ).toBe(true);
    }
    const { data, info } = await sharp(Buffer.from(zip[`${stem}-bitmap.png`]))
      .toColourspace("b-w")
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([bits.width, bits.height]);
    expect(
      data.every((v, i) => (v === 0) === (bitAt(bits, i % bits.width, Math.floor(i / bits.width)) === 1)),
    ).toBe(true);

    const sheet = execFileSync("pdftotext", ["-layout", "-", "-"], {
      input: zip[`${stem}-job-sheet.pdf`],
      encoding: "utf8",
    });
    for (const words of [
      `${ticket.number}`,
      "Häfen & Boote",
      "20 x 13.3 mm",
      "Stucki",
      "Gift box",
      "second line",
      render.files[1].sha256,
    ])
      expect(sheet).toContain(words);

    expect(await ask<TicketView>(url(`/api/tickets/${ticket.id}`))).toMatchObject({ state: "handed over" });
    expect((await ask<RenderView[]>(url(`/api/routes/${route.id}/renders`))).map((r) => r.id)).toEqual([
      asked.id,
    ]);
  });

  test("of a route that cannot be run fail with the reason", async () => {
    const { route } = await addTicket(program.url, photo, "p.png", [
      { stage: "size", widthMm: 100, dotsPerInch: 2400 },
      { stage: "tone", sharpen: { radiusMm: 5, amount: 1 } },
    ]);
    const render = await finished(
      program.url,
      (await ask<RenderView>(url(`/api/routes/${route.id}/renders`), "POST")).id,
    );
    expect(render).toMatchObject({
      state: "failed",
      error: expect.stringMatching(/^tone: sharpen.radiusMm is 5; allowed: 0.64 or less/),
      files: [],
    });
    expect(await refused(`/api/renders/${render.id}/zip`, "GET")).toMatchObject({ status: 404 });
  });

  test("whose worker is killed are taken again by another", async () => {
    const base = await newDatabase();
    const lease = { HARDLINE_LEASE_SECONDS: "2" };
    const server = await startProgram(base, ["--role=server"], lease);
    const first = await startProgram(base, ["--role=worker"], lease);
    const { route } = await addTicket(server.url, await png(900, 600), "p.png", [
      { stage: "size", widthMm: 500, dotsPerInch: 254 },
      { stage: "tone", sharpen: { amount: 1, radiusMm: 0.5 } },
      { stage: "blackWhite" },
    ]);
    const { id } = await ask<RenderView>(`${server.url}/api/routes/${route.id}/renders`, "POST");
    const state = async () => ask<RenderView>(`${server.url}/api/renders/${id}`);
    while ((await state()).state !== "running") await new Promise((r) => setTimeout(r, 50));
    await first.kill();
    expect((await state()).state).toBe("running");
    const second = await startProgram(base, ["--role=worker"], lease);
    const render = await finished(server.url, id);
    expect(render).toMatchObject({ state: "done", error: null });
    expect(render.files.length).toBeGreaterThan(4);
    await Promise.all([server.stop(), second.stop()]);
  });

  nightly("go on after a restart in the middle", async () => {
    const base = await newDatabase();
    const lease = { HARDLINE_LEASE_SECONDS: "2" };
    let own = await startProgram(base, [], lease);
    const { route } = await addTicket(own.url, await png(900, 600, 3), "p.png", [
      { stage: "size", widthMm: 500, dotsPerInch: 254 },
      { stage: "tone", sharpen: { amount: 1, radiusMm: 0.5 } },
      { stage: "blackWhite" },
    ]);
    const { id } = await ask<RenderView>(`${own.url}/api/routes/${route.id}/renders`, "POST");
    while ((await ask<RenderView>(`${own.url}/api/renders/${id}`)).state !== "running")
      await new Promise((r) => setTimeout(r, 50));
    await own.kill();
    own = await startProgram(base, [], lease);
    expect(await finished(own.url, id)).toMatchObject({ state: "done", revision: route.revision });
    await own.stop();
  });
});
