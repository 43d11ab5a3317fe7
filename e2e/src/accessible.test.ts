import axe, { type AxeResults } from "axe-core";
import { type Browser, type Page } from "puppeteer-core";
import { openBrowser, openPage, press, settled } from "./browser";
import { addTicket, ask, newDatabase, photographOf, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let bench: string;
let without: string;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
  const photo = photographOf(300, 200);
  const { ticket, route } = await addTicket(
    program.url,
    photo,
    "harbour.jpg",
    [
      { stage: "size", widthMm: 40 },
      { stage: "clear", ops: [{ op: "pick", at: [0.1, 0.1], tolerance: 8 }] },
      { stage: "tone" },
      { stage: "blackWhite" },
    ],
    { piece: "Harbour coasters", customer: "Skerry Light", due: "2026-12-04" },
  );
  await ask(`${program.url}/api/tickets/${ticket.id}/routes`, "POST", {
    route: { ...route.route, name: "Second" },
  });
  bench = `${program.url}/tickets/${ticket.id}`;
  const plain = await addTicket(program.url, photo, "plain.jpg", [
    { stage: "size", widthMm: 40 },
    { stage: "tone" },
  ]);
  without = `${program.url}/tickets/${plain.ticket.id}`;
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

/** Rules of WCAG 2.2 AA and good practice that the page breaks, with the first places. */
async function broken(page: Page): Promise<string[]> {
  await page.evaluate(axe.source);
  const found = (await page.evaluate(async () => {
    const { axe: own } = window as unknown as {
      axe: { run: (on: Document, how: object) => Promise<unknown> };
    };
    return own.run(document, {
      runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    });
  })) as AxeResults;
  return found.violations.flatMap((v) =>
    v.nodes
      .slice(0, 3)
      .map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary?.split("\n")[1] ?? ""}`),
  );
}

test("the board breaks no rule", async () => {
  const page = await openPage(browser, program.url);
  await page.waitForSelector("a[data-ticket]");
  expect(await broken(page)).toEqual([]);
  await page.close();
});

nightly(
  "the bench breaks no rule at any stage, with the test strip, cropping, or a dialog open",
  async () => {
    const page = await openPage(browser, bench);
    await settled(page);
    for (const row of ["Artwork", "Size", "Clear", "Tone", "Black & white", "Hand over"]) {
      await press(page, row);
      await new Promise((r) => setTimeout(r, 150));
      expect([row, await broken(page)]).toEqual([row, []]);
    }
    await press(page, "Size");
    await press(page, "Crop by dragging");
    expect(await broken(page)).toEqual([]);
    await press(page, "Done");
    await press(page, "Black & white");
    await page.keyboard.press("Escape");
    await page.locator("[role=application]").click();
    await page.keyboard.press("s");
    await page.waitForSelector("canvas[aria-label]");
    await new Promise((r) => setTimeout(r, 600));
    expect(await broken(page)).toEqual([]);
    await page.keyboard.press("Escape");
    await page.keyboard.press("?");
    await page.waitForSelector("[role=dialog]");
    await new Promise((r) => setTimeout(r, 400));
    expect(await broken(page)).toEqual([]);
    await page.close();
  },
  120000,
);

/** Presses the first of a kind of thing, whatever it is called. */
const pressFirst = (page: Page, selector: string) => page.locator(selector).setTimeout(30000).click();
const ROOMS: readonly (readonly [what: string, path: string, opened: string | null])[] = [
  ["materials", "/materials", null],
  ["a new material", "/materials", "button::-p-text(New material)"],
  ["a wedge", "/materials", "td button"],
  ["a machine", "/machines", "button::-p-text(Change)"],
  ["batches", "/batches", null],
  ["a new batch", "/batches", "button::-p-text(New batch)"],
  ["sheets", "/sheets", null],
  ["a sheet that there is not", "/sheets/99999", null],
  ["a run that there is not", "/runs/99999", null],
  ["a ticket that there is not", "/tickets/99999", null],
  ["an address that there is not", "/lost/place", null],
];
test.each(ROOMS)("%s: breaks no rule, and has a heading", async (_what, path, opened) => {
  const page = await openPage(browser, `${program.url}${path}`);
  await page.waitForSelector("h1");
  if (opened) {
    await pressFirst(page, opened);
    await page.waitForSelector("[role=dialog]");
  }
  await new Promise((r) => setTimeout(r, 700));
  expect(await broken(page)).toEqual([]);
  await page.close();
});

test("the ticket's dialog breaks no rule, nor does the bench while it measures", async () => {
  const page = await openPage(browser, bench);
  await page.waitForSelector('[title="Edit the ticket"]');
  expect(await broken(page)).toEqual([]);
  await pressFirst(page, '[title="Edit the ticket"]');
  await page.waitForSelector("[role=dialog]");
  await new Promise((r) => setTimeout(r, 500));
  expect(await broken(page)).toEqual([]);
  await page.close();
});

test("the bench that is left is gone: its nodes, its listeners and its workers", async () => {
  const page = await openPage(browser, program.url);
  const client = await page.createCDPSession();
  const shown = async (selector: string) =>
    (await page.waitForFunction((s) => !!document.querySelector(s), { timeout: 60000 }, selector)).dispose();
  const visit = async (): Promise<void> => {
    await shown("a[data-ticket]");
    await page.evaluate(() => document.querySelector<HTMLElement>("a[data-ticket]")!.click());
    await shown("canvas[data-shown]");
    await page.evaluate(() => document.querySelector<HTMLElement>("nav a")!.click());
    await shown("a[data-ticket]");
  };
  const nodes = async (): Promise<number> => {
    for (let k = 0; k < 3; k++) {
      await client.send("HeapProfiler.collectGarbage");
      await new Promise((r) => setTimeout(r, 300));
    }
    return (await page.metrics()).Nodes!;
  };
  await visit();
  const before = await nodes();
  for (let k = 0; k < 5; k++) await visit();
  // One bench has some nine hundred.
  expect((await nodes()) - before).toBeLessThan(200);
  // One waits for the next bench, once the board has rested.
  expect(page.workers().length).toBeLessThanOrEqual(1);
  await page.close();
}, 120000);

test("a route without Black & white opens at the last stage that is on it", async () => {
  const page = await openPage(browser, without);
  await settled(page);
  const open = await page.$eval("button[aria-expanded=true]", (e) => e.textContent);
  expect(open).toContain("Tone");
  expect(await page.evaluate(() => document.body.textContent!.includes("is not on this route"))).toBe(false);
  await page.close();
});

test("at 1024 wide the light table's bar is whole", async () => {
  const page = await openPage(browser, bench, 1024, 768);
  await settled(page);
  const cut = await page.evaluate(() => {
    const table = document.querySelector("[role=application]")!.getBoundingClientRect();
    const bar = document.querySelector<HTMLElement>("[aria-label=Zoom]")!.parentElement!;
    return Array.from(bar.children).filter((e) => {
      const box = e.getBoundingClientRect();
      return box.right > table.right + 0.5 || box.left < table.left || e.scrollWidth > e.clientWidth + 1;
    }).length;
  });
  expect(cut).toBe(0);
  await page.close();
});

nightly("words, what is chosen, the table that fills them, and colours break no rule", async () => {
  const drawn = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50"><path d="M8 8h20v20H8z"/><path d="M50 8h20v20H50z"/></svg>',
  );
  const text = { edit: "text", text: "Name", at: [0.5, 0.8], capitalMm: 6, field: "name" };
  const { ticket } = await addTicket(program.url, drawn, "words.svg", [
    { stage: "size", widthMm: 80 },
    { stage: "colour", areas: [{ at: [0.9, 0.9], colour: "#c8352e" }] },
    { stage: "trace", edits: [text] },
  ]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await settled(page);
  await press(page, "Colour");
  await settled(page);
  expect(await broken(page)).toEqual([]);
  await press(page, "Trace");
  await page.keyboard.press("a");
  await press(page, "Fill from a table");
  await page.waitForSelector("[role=dialog] input");
  await new Promise((r) => setTimeout(r, 600));
  expect(await broken(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.keyboard.press("c");
  const { x, y, width, height } = await page.$eval("canvas[data-shown]", (c) =>
    c.getBoundingClientRect().toJSON(),
  );
  await page.mouse.move(x + 60, y + 90);
  await page.mouse.down();
  await page.mouse.move(x + width - 40, y + height - 90, { steps: 4 });
  await page.mouse.up();
  await page.waitForSelector("button::-p-text(Which font is it?)");
  expect(await broken(page)).toEqual([]);
  await page.goto(program.url);
  await page.waitForSelector("a[data-ticket]");
  await press(page, "Words");
  await page.waitForSelector("[role=dialog] input");
  await new Promise((r) => setTimeout(r, 600));
  expect(await broken(page)).toEqual([]);
  await page.close();
});

test("customers, one of them, the day, people, history and comments break no rule", async () => {
  const page = await openPage(browser, `${program.url}/customers`);
  await page.waitForSelector("tbody a");
  expect(await broken(page)).toEqual([]);
  await page.locator("tbody a::-p-text(Skerry Light)").click();
  await page.waitForSelector("aside h2");
  expect(await broken(page)).toEqual([]);
  await press(page, "Order again");
  await page.waitForSelector("button::-p-text(Make the ticket)");
  expect(await broken(page)).toEqual([]);
  for (const path of ["/today", "/people"]) {
    await page.goto(`${program.url}${path}`);
    await page.waitForSelector(path === "/today" ? "ol li" : "tbody tr");
    expect([path, await broken(page)]).toEqual([path, []]);
  }
  for (const row of ["history", "comments"]) {
    await page.goto(`${bench}?stage=${row}`);
    await settled(page);
    if (row === "history") {
      await page.locator('button[title="Compare revision 1"]').click();
      await page.waitForSelector('button[aria-label^="Edge of the wipe"]');
    }
    expect([row, await broken(page)]).toEqual([row, []]);
  }
  await page.close();
});
