import {
  type ArtworkView,
  type CurveView,
  type MachineView,
  type PieceView,
  type RenderView,
  type RunView,
  type SheetView,
  type TicketView,
} from "@hardline/contract";
import { posedAt, type Pose } from "@hardline/core/machine/camera";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { machineBeside, type MachineBeside } from "../../../e2e/src/machinesBeside";
import { nightly } from "../../../e2e/src/nightly";

let databaseUrl: string;
let program: Program;
let laser: MachineBeside;
let knife: MachineBeside;
let printer: MachineBeside;
let routeId: string;
let ticketId: string;

const ENV = { HARDLINE_LEASE_SECONDS: "2" };
const url = (path: string) => `${program.url}${path}`;
const picture = () =>
  sharp(
    Buffer.from(
      Uint8Array.from({ length: 240 * 120 }, (_, i) => ((i % 240) * 1.05 + ((i * 7919) % 40)) % 256),
    ),
    {
      raw: { width: 240, height: 120, channels: 1 },
    },
  )
    .png()
    .toBuffer();

beforeAll(async () => {
  databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl, [], ENV);
  laser = await machineBeside(() => program, "bed-laser");
  knife = await machineBeside(() => program, "knife-cutter");
  printer = await machineBeside(() => program, "film-printer");
  const made = await addTicket(program.url, await picture(), "ramp.png", [
    { stage: "size", widthMm: 24, dotsPerInch: 254 },
    { stage: "blackWhite" },
    { stage: "cutLine", from: "shape" },
  ]);
  [routeId, ticketId] = [made.route.id, made.ticket.id];
});
afterAll(async () => {
  await program?.stop();
  for (const machine of [laser, knife, printer]) await machine?.stop();
});

async function until(id: string, is: (run: RunView) => boolean): Promise<RunView> {
  for (let k = 0; k < 600; k++) {
    const run = await ask<RunView>(url(`/api/runs/${id}`)).catch(() => null);
    if (run && is(run)) return run;
    if (run?.state === "failed" && !is(run)) throw new Error(run.error ?? "failed");
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error(`run ${id} did not come to that: ${JSON.stringify(await ask(url(`/api/runs/${id}`)))}`);
}
const state =
  (...states: RunView["state"][]) =>
  (run: RunView) =>
    states.includes(run.state);
const act = (id: string, what: string) => ask<RunView>(url(`/api/runs/${id}/${what}`), "POST");

async function prepared(machine: string, wish: object = {}, from: object = { routeId }): Promise<RunView> {
  const run = await ask<RunView>(url("/api/runs"), "POST", { machine, wish, ...from });
  return until(run.id, state("ready"));
}
async function sent(machine: string, wish: object = {}, from?: object): Promise<RunView> {
  const run = await prepared(machine, wish, from);
  await act(run.id, "queue");
  return until(run.id, state("done", "held"));
}

test("a route is planned, timed within 2 %, sent, and burned dot for dot; its file is what was looked at", async () => {
  const run = await prepared("bed-laser");
  expect(run.plan!.passes.map((p) => [p.name, p.use])).toEqual([
    ["bitmap", "bitmap"],
    ["cut", "through"],
  ]);
  const program_ = Buffer.from(await (await fetch(url(run.programUrl!))).arrayBuffer());
  expect(program_.length).toBe(run.plan!.bytes);
  expect(program_.toString().split("\n")[1]).toBe("N2G21");
  await act(run.id, "queue");
  const done = await until(run.id, state("done", "held"));
  expect([done.state, done.made, done.executed]).toEqual([
    "done",
    { equal: true, twice: 0 },
    run.plan!.lines,
  ]);
  expect(Math.abs(run.plan!.seconds / done.seconds! - 1)).toBeLessThan(0.02);
  const burned = await sharp(Buffer.from(await (await fetch(url(done.burnedUrl!))).arrayBuffer())).metadata();
  expect([burned.width, burned.height]).toEqual([240, 120]);
  expect((await ask<RunView[]>(url(`/api/tickets/${ticketId}/runs`))).map((r) => r.id)).toContain(run.id);
});

test("a lost line holds the run; gone on with, no dot is burned twice", async () => {
  const run = await prepared("bed-laser");
  const at = Math.floor(run.plan!.lines / 3);
  await laser.faults({ loseLineAt: at });
  await act(run.id, "queue");
  const held = await until(run.id, state("held", "done"));
  expect(held.error).toMatch(/line to the machine was lost.* Line \d+ of \d+ is done/);
  expect(held.executed).toBeLessThan(run.plan!.lines);
  await act(run.id, "resume");
  const done = await until(run.id, state("done"));
  expect(done.made).toEqual({ equal: true, twice: 0 });
});

test("kill -9 of the server: the run is held, not repeated; and then of the machine: no dot twice", async () => {
  await laser.faults({ pace: 8 });
  const run = await prepared("bed-laser");
  await act(run.id, "queue");
  await until(run.id, (r) => r.executed > 200);
  await program.kill();
  program = await startProgram(databaseUrl, [], ENV);
  const held = await until(run.id, state("held", "done"));
  expect(held.error).toMatch(/Nothing is repeated by itself/);
  await act(run.id, "resume");
  await until(run.id, (r) => r.executed > held.executed + 200);
  await laser.kill();
  const again = await until(run.id, state("held", "done"));
  expect(again.state).toBe("held");
  await laser.restart();
  await laser.faults({ pace: 0 });
  await act(run.id, "resume");
  const done = await until(run.id, state("done"));
  expect(done.made).toEqual({ equal: true, twice: 0 });
});

test("paused, gone on, and one pass again as a run of its own", async () => {
  await laser.faults({ pace: 6 });
  const run = await prepared("bed-laser");
  await act(run.id, "queue");
  await until(run.id, (r) => r.executed > 100);
  await act(run.id, "pause");
  await until(run.id, state("paused"));
  await new Promise((r) => setTimeout(r, 500));
  const first = (await ask<RunView>(url(`/api/runs/${run.id}`))).executed;
  await new Promise((r) => setTimeout(r, 500));
  expect((await ask<RunView>(url(`/api/runs/${run.id}`))).executed).toBe(first);
  await laser.faults({ pace: 0 });
  await act(run.id, "resume");
  expect((await until(run.id, state("done"))).made).toEqual({ equal: true, twice: 0 });
  const pass = await ask<RunView>(url(`/api/runs/${run.id}/again?pass=cut`), "POST");
  const ready = await until(pass.id, state("ready"));
  expect(ready.plan!.passes.map((p) => p.name)).toEqual(["cut"]);
  expect(ready.plan!.at).toEqual(run.plan!.at);
});

test("two runs wait in an order that can be changed; one that is stopped lets the next go", async () => {
  await laser.faults({ off: true });
  const [a, b, c] = [await prepared("bed-laser"), await prepared("bed-laser"), await prepared("bed-laser")];
  for (const run of [a, b, c]) await act(run.id, "queue");
  const held = await until(a.id, state("held"));
  expect(held.error).toMatch(/does not answer .* Is it switched on\?/);
  await ask(url(`/api/runs/${c.id}/place`), "POST", { before: b.id });
  const [machine] = (await ask<MachineView[]>(url("/api/machines"))).filter(
    (m) => m.machine.key === "bed-laser",
  );
  expect(machine.queue.map((r) => r.id)).toEqual([a.id, c.id, b.id]);
  await laser.faults({ off: false });
  await act(a.id, "stop");
  const ends = [await until(c.id, state("done")), await until(b.id, state("done"))];
  expect(Date.parse(ends[0].endedAt!)).toBeLessThan(Date.parse(ends[1].startedAt!));
  expect((await ask<RunView>(url(`/api/runs/${a.id}`))).state).toBe("stopped");
});

nightly(
  "a wedge is burned, photographed on the machine and read: slate's answer is found; with its curve tone is straight within 2 %",
  async () => {
    const burnt = async (proof: string): Promise<CurveView> => {
      const ticket = await ask<TicketView>(url(`/api/materials/slate/wedge${proof}`), "POST");
      const done = await sent("bed-laser", {}, { routeId: ticket.routes[0].id });
      expect([done.state, done.made]).toEqual(["done", { equal: true, twice: 0 }]);
      const photo = Buffer.from(await (await fetch(url(`/api/runs/${done.id}/photo`))).arrayBuffer());
      const taken = await fetch(url("/api/artworks?name=photo.png"), { method: "POST", body: photo });
      const { id } = (await taken.json()) as ArtworkView;
      return ask<CurveView>(url(`/api/materials/slate/curves/photo/${id}`), "POST");
    };
    const off = ({ readings }: CurveView) =>
      Math.max(...readings.map(([made, seen]) => Math.abs(made - seen)));
    expect(off(await burnt(""))).toBeGreaterThan(0.08);
    expect(off(await burnt("?proof=1"))).toBeLessThan(0.02);
  },
);

test("a jam, and a machine that refuses, are told with what to do", async () => {
  await laser.faults({ jamAt: 150 });
  const run = await prepared("bed-laser");
  await act(run.id, "queue");
  expect((await until(run.id, state("held"))).error).toMatch(/jammed. Clear it, then go on/);
  await act(run.id, "resume");
  expect((await until(run.id, (r) => r.state === "held")).error).toBeTruthy();
  await fetch(`${laser.floor}/clear`, { method: "POST" });
  await laser.faults({ refuse: "the lid is open" });
  await act(run.id, "resume");
  expect((await until(run.id, (r) => r.state === "held" && /lid/.test(r.error ?? ""))).error).toMatch(
    "The machine refuses: the lid is open.",
  );
  await laser.faults({ refuse: null });
  await act(run.id, "resume");
  expect((await until(run.id, state("done"))).made).toEqual({ equal: true, twice: 0 });
});

test("what a machine cannot do is refused with what it can", async () => {
  const { route } = await addTicket(program.url, await picture(), "other.png", [
    { stage: "size", widthMm: 24, dotsPerInch: 200 },
    { stage: "blackWhite" },
  ]);
  const run = await ask<RunView>(url("/api/runs"), "POST", {
    machine: "bed-laser",
    wish: {},
    routeId: route.id,
  });
  const failed = await until(run.id, state("failed"));
  expect(failed.error).toMatch(/resolution is 200 dots per inch; .* runs 127, 254/);
  await expect(ask(url("/api/runs"), "POST", { machine: "loom", wish: {}, routeId })).rejects.toThrow(
    "There is no machine loom",
  );
  await expect(
    ask(url("/api/runs"), "POST", { machine: "bed-laser", wish: { power: 500 }, routeId }),
  ).rejects.toThrow(/run: power is 500/);
});

test("a sheet of printed stickers: its marks are read askew, and the blade follows within 0.1 mm", async () => {
  const { route, ticket } = await addTicket(program.url, await picture(), "sticker.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 150 },
    { stage: "cutLine", from: "shape", kind: "kiss", print: { under: "colour" } },
  ]);
  const piece = await ask<RenderView>(url(`/api/routes/${route.id}/piece?bleedMm=0.5`), "POST");
  for (let k = 0; k < 200; k++) {
    if ((await ask<RenderView>(url(`/api/renders/${piece.id}`))).state === "done") break;
    await new Promise((r) => setTimeout(r, 50));
  }
  const { outcome, revision } = await ask<RenderView>(url(`/api/renders/${piece.id}`));
  const { box } = outcome as PieceView;
  // A piece that was made is not yet handed over.
  expect((await ask<TicketView>(url(`/api/tickets/${ticket.id}`))).state).not.toBe("handed over");
  expect(outcome).toMatchObject({
    printed: true,
    box: { width: expect.closeTo(40, 0), height: expect.closeTo(20, 0) },
  });
  const body = {
    stock: { widthMm: 200, heightMm: 150 },
    marks: true,
    bleedMm: 0.5,
    machine: "knife-cutter",
    pieces: [{ routeId: route.id, count: 4 }],
  };
  const sheet = await ask<SheetView>(url("/api/sheets"), "POST", { name: "Stickers", body });
  const placings = [0, 1, 2, 3].map((k) => ({
    ...{
      piece: 0,
      sheet: 0,
      xMm: 70 + 60 * (k % 2),
      yMm: 50 + 40 * (k >> 1),
      turnDegrees: k % 2 ? 180 : 0,
      mirrored: false,
    },
  }));
  const saved = await ask<SheetView>(url(`/api/sheets/${sheet.id}`), "PUT", {
    ...{ name: "Stickers", body, version: sheet.version, placings, revisions: { [route.id]: revision } },
  });
  expect(saved.pieces).toMatchObject([{ ticketId: ticket.id, wanted: 1 }]);
  expect(saved.checks.map((c) => [c.id, c.level])).toContainEqual(["sheetOverlap", "fine"]);
  const files = await ask<RenderView>(url(`/api/sheets/${sheet.id}/renders`), "POST");
  for (let k = 0; k < 200; k++) {
    if ((await ask<RenderView>(url(`/api/renders/${files.id}`))).state === "done") break;
    await new Promise((r) => setTimeout(r, 50));
  }
  const { files: made } = await ask<RenderView>(url(`/api/renders/${files.id}`));
  expect(made.map((f) => f.name.replace(/^sheet-\d+v\d+-/, ""))).toEqual([
    "sheet-1.pdf",
    "sheet-1.cut.svg",
    "sheet-1.cut.dxf",
    "sheet-1.cut.plt",
    "sheet-1.cut.pdf",
    "readings.json",
  ]);
  const done = await sent("knife-cutter", {}, { sheetId: sheet.id, sheet: 1 });
  expect([done.error, done.state]).toEqual([null, "done"]);
  expect(done.camera!.of).toBe(4);
  const { sheet: laidIn } = (await (await fetch(`${knife.floor}/`)).json()) as { sheet: { pose: Pose } };
  const { pose } = laidIn;
  const lines = (await (await fetch(`${knife.floor}/lines`)).json()) as number[][];
  expect(lines).toHaveLength(4);
  // Where the printed rectangles really lie on the bed.
  const sides = placings.flatMap(({ xMm, yMm }) => {
    const [w, h] = [box.width / 2, box.height / 2];
    const corners = [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ].map(([u, v]) => posedAt(pose, xMm + u, yMm + v));
    return corners.map((c, k) => [c, corners[(k + 1) % 4]] as const);
  });
  let off = 0;
  for (const line of lines)
    for (let k = 0; k < line.length; k += 2) {
      const [x, y] = [line[k], 1200 - line[k + 1]];
      const near = sides.map(([[ax, ay], [bx, by]]) => {
        const t = Math.max(
          0,
          Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2)),
        );
        return Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y);
      });
      off = Math.max(off, Math.min(...near));
    }
  expect(off).toBeLessThan(0.1);
});

test("pieces of two materials do not go on one sheet", async () => {
  const other = await addTicket(program.url, await picture(), "slate.png", [{ stage: "size", widthMm: 20 }], {
    material: "slate",
  });
  const body = {
    stock: { widthMm: 200, heightMm: 150 },
    pieces: [
      { routeId, count: 1 },
      { routeId: other.route.id, count: 1 },
    ],
  };
  const sheet = await ask<SheetView>(url("/api/sheets"), "POST", {
    name: "Both",
    body: { ...body, pieces: [] },
  });
  await expect(
    ask(url(`/api/sheets/${sheet.id}`), "PUT", { name: "Both", body, version: 1 }),
  ).rejects.toThrow(/a sheet is of one material/);
  await expect(ask(url(`/api/sheets/${sheet.id}/renders`), "POST")).rejects.toThrow(
    /No piece lies on this sheet/,
  );
});

test("a film is sent as a TIFF, and takes as long as was said", async () => {
  const { route } = await addTicket(program.url, await picture(), "film.png", [
    { stage: "size", widthMm: 30, dotsPerInch: 720 },
    { stage: "blackWhite" },
  ]);
  const run = await prepared("film-printer", {}, { routeId: route.id });
  expect(run.plan!.mediaType).toBe("image/tiff");
  await act(run.id, "queue");
  const done = await until(run.id, state("done", "held"));
  expect([done.state, done.error]).toEqual(["done", null]);
  expect(Math.abs(run.plan!.seconds / done.seconds! - 1)).toBeLessThan(0.02);
});
