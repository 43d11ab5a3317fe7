import { type MachineView, type RunView } from "@hardline/contract";
import { pathEdit } from "@hardline/core/edit/operations";
import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { type Browser } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled } from "./browser";
import { copyOfProject, follow, instructionsOf } from "./followTheManual";
import { addTicket, ask, newDatabase, ROOT, startProgram, type Program } from "./harness";
import { machineBeside, type MachineBeside } from "./machinesBeside";

/*
 * docs/adding.md says how one of a kind is added: a machine, an operation on paths, a way to dots, a format, a limit. Here
 * that is done, to the letter, in a copy of the project, and each is used by parts that were written before it and do not know it.
 */
let copy: string;
let picture: Buffer;
let program: Program;
let plotter: MachineBeside;
let browser: Browser;
let close: () => Promise<void>;
const cli = (command: "main" | "burn", ...args: string[]) =>
  execFileSync(process.execPath, [`apps/cli/dist/${command}.js`, ...args], {
    cwd: copy,
    stdio: ["ignore", "pipe", "pipe"],
  });

beforeAll(async () => {
  copy = copyOfProject();
  const manual = readFileSync(join(ROOT, "docs/adding.md"), "utf8");
  const instructions = instructionsOf(manual, "How to add one of a kind");
  // A machine touches its own folder and the list; the others a file of their own and one table.
  const paths = [...new Set(instructions.map((i) => i.path.replace("packages/core/src/", "")))];
  expect(paths.sort()).toEqual(
    [
      "dots/methods.ts",
      "dots/methods/ordered.ts",
      "edit/operations.ts",
      "edit/operations/flip.ts",
      "format/csv.ts",
      "format/pathFormats.ts",
      "inspect/limits.ts",
      "inspect/paths/wayLength.ts",
      "machine/kinds.ts",
      "machine/kinds/penPlotter/kind.ts",
      "machine/kinds/penPlotter/profile.ts",
      "stage/trace/checks.ts",
      "stage/trace/trace.ts",
      // Of a way to dots: its controls, and their list.
      "apps/web/src/stages/blackWhite/methods.ts",
      "apps/web/src/stages/blackWhite/methods/OrderedControls.tsx",
      // Of a format of artwork: its reader, and the table.
      "packages/intake/src/formats.ts",
      "packages/intake/src/formats/pgm.ts",
      // Of a ticket's field: the table, and the column.
      "packages/contract/src/ticketFields.ts",
      "apps/server/src/database/migrations.ts",
    ].sort(),
  );
  for (const instruction of instructions) follow(copy, instruction);
  const run = (...command: string[]) =>
    execFileSync(process.execPath, command, { cwd: copy, stdio: ["ignore", "ignore", "inherit"] });
  for (const made of ["tile", "letters"]) run(`scripts/${made}.mjs`); // as installing does
  const checked = ["packages/core", "packages/contract", "apps/web", "apps/server", "apps/cli"];
  run("node_modules/typescript/bin/tsc", "-b", "--pretty", "false", ...checked);
  run("scripts/rooms.mjs");
  run("scripts/build.mjs");
  // A dark square, off the middle, with a notch at its right.
  const dark = (x: number, y: number) =>
    x > 40 && x < 160 && y > 30 && y < 110 && !(x > 120 && y > 60 && y < 80);
  const raw = Buffer.from(
    Array.from({ length: 300 * 150 }, (_, i) => (dark(i % 300, Math.floor(i / 300)) ? 20 : 250)),
  );
  picture = await sharp(raw, { raw: { width: 300, height: 150, channels: 1 } })
    .png()
    .toBuffer();
  mkdirSync(join(copy, ".local"), { recursive: true });
  writeFileSync(join(copy, ".local/square.png"), picture);
  program = await startProgram(await newDatabase(), [], {}, copy);
  plotter = await machineBeside(() => program, "pen-plotter", 0, copy);
  ({ browser, close } = await openBrowser());
}, 400000);

afterAll(async () => {
  await close?.();
  await plotter?.stop();
  await program?.stop();
  if (copy) rmSync(copy, { recursive: true, force: true });
});

const SIZE = { stage: "size", widthMm: 30, dotsPerInch: 254 };
const routeOf = (name: string, stages: readonly object[], more: object = {}): string => {
  const file = join(copy, `.local/${name}.route.json`);
  writeFileSync(file, JSON.stringify({ format: "hard-line-route", version: 1, name, stages, ...more }));
  return file;
};

test("the command line plans for the machine, and its program is looked through and timed", () => {
  const out = join(copy, ".local/plot");
  const route = routeOf("plot", [SIZE, { stage: "trace" }, { stage: "cutLine", from: "trace" }]);
  cli("burn", route, ".local/square.png", "--machine", "pen-plotter", "--out", out);
  const plot = readFileSync(join(out, "burn.plt"), "utf8");
  expect(plot).toMatch(/^CO"[^"]*";\nIN;/);
  const report = JSON.parse(readFileSync(join(out, "burn.json"), "utf8"));
  expect(report.machine).toBe("pen-plotter");
  expect(report.seconds.estimated).toBeGreaterThan(0.5);
  expect(Math.abs(report.seconds.simulated / report.seconds.estimated - 1)).toBeLessThan(0.1);
});

test("the server knows it, plans a run, and the machine draws it to its end", async () => {
  const machines = await ask<MachineView[]>(`${program.url}/api/machines`);
  expect(machines.map((m) => m.machine.kind)).toContain("pen-plotter");
  const stages = [SIZE, { stage: "trace" }, { stage: "cutLine", from: "trace" }];
  const { route } = await addTicket(program.url, picture, "square.png", stages);
  const run = { machine: "pen-plotter", routeId: route.id, revision: route.revision, wish: {} };
  const { id } = await ask<RunView>(`${program.url}/api/runs`, "POST", run);
  const until = async (state: string): Promise<RunView> => {
    for (let k = 0; k < 400; k++) {
      const now = await ask<RunView>(`${program.url}/api/runs/${id}`);
      if (now.state === state) return now;
      expect([now.state, now.error]).not.toEqual(["failed", expect.anything()]);
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error(`the run did not come to be ${state}`);
  };
  const ready = await until("ready");
  expect(ready.plan!.mediaType).toBe("application/vnd.hp-hpgl");
  await ask(`${program.url}/api/runs/${id}/queue`, "POST");
  await until("done");

  const page = await openPage(browser, `${program.url}/runs/${id}`);
  // It is played by its bytes, and what may be wished of it is where it lies, not how rows are run.
  await page.waitForFunction(() => document.querySelector("[role=img][aria-label='What is marked so far']"));
  await page.waitForFunction(() => !document.body.textContent!.includes("It cannot be played"));
  await page.goto(`${program.url}/machines`);
  await page.waitForFunction(() => document.body.textContent!.includes("Pen plotter, takes HP-GL"));
  await page.locator("section[aria-label='Pen plotter, A3'] button::-p-text(Change)").click();
  await page.waitForSelector("[role=dialog]");
  await page.waitForFunction(() => /Pen width/.test(document.querySelector("[role=dialog]")!.textContent!));
  await page.close();
}, 90000);

test("the format is handed over wherever paths are; the operation and the limit are the route's own", () => {
  const edits = [{ edit: "flip", at: [41 / 300, 0.5] }];
  const read = (name: string, route: string) => {
    const out = join(copy, `.local/${name}`);
    cli("main", route, ".local/square.png", "--out", out);
    const csv = readFileSync(join(out, "trace.csv"), "utf8").trim().split("\r\n");
    const checks = JSON.parse(readFileSync(join(out, "readings.json"), "utf8")).checks as {
      id: string;
      level: string;
    }[];
    return { points: csv.slice(1).map((line) => line.split(",").slice(2).map(Number)), csv, checks };
  };
  const plain = read("plain", routeOf("plain", [SIZE, { stage: "trace" }]));
  const flipped = read(
    "flipped",
    routeOf("flipped", [SIZE, { stage: "trace", edits }], { checks: { outlinesMm: 10 } }),
  );
  expect(plain.csv[0]).toBe("set,path,x,y");
  // The notch, at the right of the square, is at its left.
  const inNotch = (points: number[][]) => points.filter(([, y]) => y > 6.2 && y < 7.8).map(([x]) => x);
  expect(Math.min(...inNotch(plain.points))).toBeGreaterThan(11);
  expect(Math.max(...inNotch(flipped.points).filter((x) => x < 12))).toBeLessThan(8.5);
  const level = (of: typeof plain) => of.checks.find((c) => c.id === "wayLength")?.level;
  expect([level(plain), level(flipped)]).toEqual(["fine", "look"]);
  // Here, where nothing was added, the same edit is refused.
  expect(pathEdit.safeParse(edits[0]).success).toBe(false);
});

test("the way to dots makes a bitmap, and the plate of an ink, out of a file of the new format", async () => {
  const [width, height] = [64, 16];
  const ramp = Buffer.from(Array.from({ length: width * height }, (_, i) => 4 * (i % width))); // black to white
  const header = Buffer.from(`P5\n${width} ${height}\n255\n`, "latin1");
  writeFileSync(join(copy, ".local/ramp.pgm"), Buffer.concat([header, ramp]));
  const size = { stage: "size", widthMm: 6.4, dotsPerInch: 254 };
  const ink = { name: "black", colour: "#000000", opacity: 1, screen: "ordered" };
  const films = { stage: "films", separate: "tonal", garment: "#ffffff", inks: [ink], marks: false };
  const made = async (name: string, stage: object, file: string): Promise<Buffer> => {
    const out = join(copy, `.local/${name}`);
    cli("main", routeOf(name, [size, stage]), ".local/ramp.pgm", "--out", out);
    return sharp(join(out, file)).grayscale().raw().toBuffer();
  };
  const bitmap = await made("dots", { stage: "blackWhite", method: "ordered" }, "bitmap.png");
  const plate = await made("plates", films, "film-black.png");
  /** Marks in the square of 4 that begins at a column. */
  const marked = (bits: Buffer, from: number): number =>
    [0, 1, 2, 3]
      .flatMap((y) => [...bits.subarray(y * width + from, y * width + from + 4)])
      .filter((v) => v === 0).length;
  // By hand: a square of 16 whose grey is g, 255 = white, has about 16 - g / 16 marks. A film prints light: as much of the
  // white is left as there is light in the grey (Murray 1936).
  const light = (g: number) => (g / 255 <= 0.04045 ? g / 255 / 12.92 : ((g / 255 + 0.055) / 1.055) ** 2.4);
  for (const from of [0, 16, 32, 48, 60]) {
    const grey = 4 * (from + 1.5);
    expect(Math.abs(marked(bitmap, from) - (16 - grey / 16))).toBeLessThanOrEqual(1);
    expect(Math.abs(marked(plate, from) - 16 * (1 - light(grey)))).toBeLessThanOrEqual(1);
  }
});

test("the bench offers the operation where a path is chosen, and the limit under the checks", async () => {
  const { ticket } = await addTicket(program.url, picture, "square.png", [SIZE, { stage: "trace" }]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}?stage=trace`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  expect(await page.$('[aria-label="Longest way that outlines may have in all"]')).toBeTruthy();
  await press(page, "Paths");
  await page.locator('[aria-label="Paths under this area"]').fill("10000");
  await page.keyboard.press("Tab");
  await press(page, "Choose");
  await press(page, "Flip");
  await page.waitForFunction(() => /1 edit by hand/.test(document.body.textContent!), { timeout: 20000 });
  await page.close();

  const dotted = await addTicket(program.url, picture, "square.png", [SIZE, { stage: "blackWhite" }]);
  const other = await openPage(browser, `${program.url}/tickets/${dotted.ticket.id}?stage=blackWhite`);
  await other.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await press(other, "Ordered");
  await other.waitForFunction(() => /Ordered dots/.test(document.body.textContent!), { timeout: 20000 });
  await other.close();
}, 90000);

test("a ticket's new field is asked for, kept, checked and printed on the job sheet", async () => {
  const { ticket, route } = await addTicket(program.url, picture, "square.png", [SIZE, { stage: "tone" }]);
  const at = `${program.url}/api/tickets/${ticket.id}`;
  expect(await ask<object>(at)).toMatchObject({ orderNumber: "" });
  await expect(ask(at, "PATCH", { orderNumber: "x".repeat(41) })).rejects.toThrow(/orderNumber/);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.locator('[title="Edit the ticket"]').click();
  await page.waitForSelector("[role=dialog] label::-p-text(Their order)");
  await page.locator("[role=dialog] ::-p-aria(Their order)").fill("PO 4711");
  await press(page, "Save");
  await page.waitForFunction(() => !document.querySelector("[role=dialog]"));
  expect(await ask<object>(at)).toMatchObject({ orderNumber: "PO 4711" });
  const { id } = await ask<{ id: string }>(`${program.url}/api/routes/${route.id}/renders`, "POST", {});
  let files: { name: string; url: string }[] = [];
  for (let k = 0; k < 300 && files.length === 0; k++) {
    ({ files } = await ask<{ files: typeof files }>(`${program.url}/api/renders/${id}`));
    await new Promise((r) => setTimeout(r, 100));
  }
  const sheet = files.find((f) => f.name.endsWith("job-sheet.pdf"))!;
  const pdf = Buffer.from(await (await fetch(`${program.url}${sheet.url}`)).arrayBuffer());
  expect(execFileSync("pdftotext", ["-layout", "-", "-"], { input: pdf, encoding: "utf8" })).toMatch(
    /Their order\s+PO 4711/,
  );
  await page.close();
}, 90000);
