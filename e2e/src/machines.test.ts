import { type MachineView, type RenderView, type RunView, type SheetView } from "@hardline/contract";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press } from "./browser";
import { addTicket, ask, newDatabase, startProgram, type Program } from "./harness";
import { machineBeside, type MachineBeside } from "./machinesBeside";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let laser: MachineBeside;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  laser = await machineBeside(() => program, "bed-laser");
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
  await laser?.stop();
});

/** A key tag: a drop with its point up and a wave in it, on nothing. */
const TAG = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="420"><path fill="#15181d" d="M150 20C170 110 280 190 280 280A130 130 0 0 1 20 280C20 190 130 110 150 20Z"/><path fill="none" stroke="#ffffff" stroke-width="22" d="M70 290q40-50 80 0t80 0"/></svg>`;

const says = (page: Page, words: string, timeout = 30000) =>
  page.waitForFunction((w) => document.body.innerText.replace(/\s+/g, " ").includes(w), { timeout }, words);

async function pick(page: Page, field: string, option: string): Promise<void> {
  await page.locator(`input[aria-label="${field}"]`).click();
  await page.locator(`[role=option]::-p-text(${option})`).click();
}

test("120 tags are nested, timed, played and sent; the line is lost, the run goes on, and what was burned is the bitmap", async () => {
  await addTicket(
    program.url,
    Buffer.from(TAG),
    "tag.svg",
    [
      { stage: "size", widthMm: 18, dotsPerInch: 127 },
      { stage: "tone" },
      { stage: "blackWhite", method: "line", threshold: "auto" },
      { stage: "cutLine", offsetMm: 1.5, smoothMm: 0.5, tab: { holeMm: 2.5, ringMm: 6 } },
    ],
    { piece: "Drop tags", pieces: 120, material: "acrylic" },
  );
  const page = await openPage(browser, `${program.url}/sheets`);
  await page.locator("button::-p-text(New sheet)").click();
  await says(page, "Sheet 1");
  await pick(page, "Add a piece", "Try");
  await pick(page, "Machine", "Bed laser");
  await says(page, "120 pieces wanted, 0 placed");
  await page.waitForSelector("button:not([disabled])::-p-text(Arrange)", { timeout: 60000 });
  await press(page, "Arrange");
  await says(page, "120 placed, 0 left");
  await says(page, "All copies placed");

  // One is dragged away from its place: it stays where it was put, and nothing lies over another.
  const [first] = await page.$$("svg[role=img] g g");
  const box = (await first.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 70, box.y + box.height / 2 + 55, { steps: 6 });
  await page.mouse.up();
  const kept = async () => (await ask<SheetView>(`${program.url}/api/sheets/1`)).body.kept.length;
  for (let k = 0; k < 100 && (await kept()) === 0; k++) await new Promise((r) => setTimeout(r, 100));
  const sheet = await ask<SheetView>(`${program.url}/api/sheets/1`);
  expect(sheet.body.kept).toHaveLength(1);
  expect(sheet.placings).toHaveLength(120);
  expect(sheet.checks.find((c) => c.id === "sheetOverlap")!.value).toBe(0);

  await page.locator("button::-p-text(Run sheet 1)").click();
  await says(page, "ready to send");
  const [run] = await ask<RunView[]>(`${program.url}/api/runs`);
  const minutes = Math.floor(run.plan!.seconds / 60);
  await says(page, `Estimated ${minutes} min`);

  // Played to its end at a thousand times its speed.
  await says(page, "/ ");
  await page.locator("[role=radio]::-p-text(1000×)").click();
  await press(page, "Play");
  await page.waitForFunction(
    () => {
      const [at, of] =
        document.querySelector('[aria-label="Play the run"]')!.textContent!.match(/\d+:\d\d\.\d/g) ?? [];
      return at && at === of && at !== "0:00.0";
    },
    { timeout: 60000 },
  );
  const dark = await page.$eval("canvas", (canvas) => {
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
    let sum = 0;
    for (let i = 3; i < data.length; i += 4) sum += data[i];
    return sum / (255 * canvas.width * canvas.height);
  });
  expect(dark).toBeGreaterThan(0.05);

  await laser.faults({ loseLineAt: Math.floor(run.plan!.lines / 2) });
  await press(page, "Send to the machine");
  await says(page, "The line to the machine was lost.");
  await press(page, "Go on");
  await says(page, "dot for dot", 120000);
  await says(page, "Dots burned twice 0");
  const done = await ask<RunView>(`${program.url}/api/runs/${run.id}`);
  expect(done.made).toEqual({ equal: true, twice: 0 });
  expect(Math.abs(done.plan!.seconds / done.seconds! - 1)).toBeLessThan(0.02);

  // The burned picture against the bitmap among the sheet's files, by another decoder.
  const asked = await ask<RenderView>(`${program.url}/api/sheets/1/renders`, "POST");
  let files = asked;
  while (files.state === "waiting" || files.state === "running") {
    await new Promise((r) => setTimeout(r, 200));
    files = await ask<RenderView>(`${program.url}/api/renders/${asked.id}`);
  }
  const bytes = async (url: string) => Buffer.from(await (await fetch(`${program.url}${url}`)).arrayBuffer());
  const raw = (png: Buffer) => sharp(png, { limitInputPixels: false }).toColourspace("b-w").raw().toBuffer();
  const bitmap = files.files.find((f) => f.name.endsWith("sheet-1.bitmap.png"))!;
  expect((await raw(await bytes(done.burnedUrl!))).equals(await raw(await bytes(bitmap.url)))).toBe(true);
});

test("a wedge is made as a job from its material, and typed readings become the material's curve", async () => {
  const page = await openPage(browser, `${program.url}/materials`);
  await page.waitForSelector("td button");
  await page.$$eval("tr", (rows) =>
    rows
      .find((r) => r.textContent!.includes("Pale wood"))!
      .querySelector<HTMLButtonElement>("td button")!
      .click(),
  );
  await says(page, "No wedge was measured on Pale wood yet");
  await page.locator("textarea").fill("10 18\n30 46\n50 68\n70 85\n90 97");
  await press(page, "Take the readings");
  await says(page, "Wedge 1,");
  await says(page, "by typed readings");
  await press(page, "Make one with the curve");
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"));
  await says(page, "Step wedge, Pale wood, with its curve");
});

test("two runs wait at a machine, and their order is changed by a person", async () => {
  await laser.faults({ refuse: "the lid is open" });
  const { route } = await addTicket(program.url, Buffer.from(TAG), "tag.svg", [
    { stage: "size", widthMm: 10, dotsPerInch: 254 },
    { stage: "blackWhite", method: "line" },
  ]);
  const ids: string[] = [];
  for (let k = 0; k < 3; k++) {
    const { id } = await ask<RunView>(`${program.url}/api/runs`, "POST", {
      machine: "bed-laser",
      wish: {},
      routeId: route.id,
    });
    while ((await ask<RunView>(`${program.url}/api/runs/${id}`)).state !== "ready")
      await new Promise((r) => setTimeout(r, 100));
    await ask(`${program.url}/api/runs/${id}/queue`, "POST");
    ids.push(id);
  }
  const page = await openPage(browser, `${program.url}/machines`);
  await says(page, "3 runs");
  await page.locator("button::-p-text(Earlier)").click();
  const queue = async () =>
    (await ask<MachineView[]>(`${program.url}/api/machines`))
      .find((m) => m.machine.key === "bed-laser")!
      .queue.map((r) => r.id);
  for (let k = 0; k < 50 && (await queue())[1] !== ids[2]; k++) await new Promise((r) => setTimeout(r, 100));
  expect(await queue()).toEqual([ids[0], ids[2], ids[1]]);
});
