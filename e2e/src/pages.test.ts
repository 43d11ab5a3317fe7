import { type RouteView, type TicketsView, type TicketView } from "@hardline/contract";
import { readSvgDrawing } from "@hardline/core/drawing/readSvg";
import { ringsOf } from "@hardline/core/path/flatten";
import { ringArea } from "@hardline/core/polygon/rings";
import { strToU8, unzipSync, zipSync } from "fflate";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled } from "./browser";
import { savedAt, handedOver } from "./atBench";
import { CARD_CORNER, designersPdf } from "./designersPdf";
import { drop, dropAll, type Dropped } from "./drop";
import { ask, newDatabase, startProgram, type Program } from "./harness";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
});
beforeEach(async () => {
  page = await openPage(browser, program.url);
  await page.waitForSelector("h1");
});
afterEach(() => page.close());
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

const tickets = async (): Promise<readonly TicketView[]> =>
  (await ask<TicketsView>(`${program.url}/api/tickets?order=number`)).tickets;
async function dropPdf(): Promise<void> {
  await drop(page, await designersPdf(), "cards.pdf", "application/pdf");
  await page.waitForSelector("[role=dialog] img");
}
const pictures = () =>
  page.waitForFunction(
    () =>
      [...document.querySelectorAll<HTMLImageElement>("[role=dialog] img")].every((i) => i.naturalWidth > 0),
    { timeout: 20000 },
  );

test("page 2 of a designer's PDF, as it is cut, comes out as dots of its own size", async () => {
  await dropPdf();
  await pictures();
  const words = await page.$eval("[role=dialog]", (d) => (d as HTMLElement).innerText);
  for (const part of ["cards.pdf: 3 pages", "210 × 297 mm", "105 × 75 mm", "40 × 60 mm"])
    expect(words).toContain(part);
  await page.locator("label::-p-text(As cut)").click();
  await page.waitForSelector("small::-p-text(85 × 55 mm)");
  await page.locator('button[aria-label="Page 2"]').click();
  await page.locator("button::-p-text(Start a ticket)").click();
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);

  const [ticket] = await tickets();
  expect(ticket.artwork).toMatchObject({ page: 2, box: "trim", kind: "PDF" });
  const { route } = await ask<RouteView>(`${program.url}/api/routes/${ticket.routes[0].id}`);
  expect(route.stages[0]).toMatchObject({ stage: "size", widthMm: 85 });
  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 60000 });
  const zipUrl = await page.$eval("a[href$='/zip']", (a) => (a as HTMLAnchorElement).href);
  const zip = unzipSync(new Uint8Array(await (await fetch(zipUrl)).arrayBuffer()));
  const name = Object.keys(zip).find((n) => n.endsWith("-bitmap.png"))!;
  const { data, info } = await sharp(Buffer.from(zip[name]))
    .toColourspace("b-w")
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([850, 550]);
  // The dark blue oval is in the middle, 40 × 28 mm of it: far more of it is burned than of the yellow.
  const dark = (x: number, y: number, side: number) => {
    let count = 0;
    for (let v = y; v < y + side; v++)
      for (let u = x; u < x + side; u++) if (data[v * 850 + u] === 0) count++;
    return count / (side * side);
  };
  expect(dark(375, 225, 100)).toBeGreaterThan(0.75);
  expect(dark(20, 20, 100)).toBeLessThan(0.45);
});

test("several pages are several tickets; a choice that is left starts none", async () => {
  const before = (await tickets()).length;
  await dropPdf();
  await page.locator("button::-p-text(Choose all)").click();
  await page.locator('button[aria-label="Page 1"]').click();
  await page.locator("button::-p-text(Start 2 tickets)").click();
  await page.waitForFunction(() => !document.querySelector("[role=dialog]"));
  await page.waitForFunction(() => !document.querySelector("[role=status]"), { timeout: 30000 });
  const after = await tickets();
  expect(after).toHaveLength(before + 2);
  expect(after.slice(0, 2).map((t) => t.artwork.page)).toEqual([3, 2]);

  await dropPdf();
  await page.keyboard.press("Escape");
  await page.waitForFunction(() => !document.querySelector("[role=dialog], [role=status]"));
  expect(await tickets()).toHaveLength(before + 2);
});

/** A drawing of its own number. */
const drawing = (k: number): Uint8Array =>
  strToU8(
    `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60"><circle cx="${20 + 2 * k}" cy="30" r="18" fill="#246"/></svg>`,
  );
const svg = (k: number): Dropped => ({ bytes: drawing(k), name: `tag ${k}.svg`, type: "image/svg+xml" });

test("twenty files at once, an archive among them: each a ticket, what is refused is listed and the rest goes on", async () => {
  const before = (await tickets()).length;
  const zip = zipSync({
    "more/tag 18.svg": drawing(18),
    "more/tag 19.svg": drawing(19),
    "more/notes.txt": strToU8("x"),
  });
  const files = Array.from({ length: 18 }, (_, k) => svg(k));
  files[5] = { bytes: strToU8("not a picture"), name: "tag 5.png", type: "image/png" };
  await dropAll(page, [...files, { bytes: zip, name: "more.zip", type: "application/zip" }]);
  await page.waitForSelector("[role=status] ::-p-text(of 21, )", { timeout: 20000 });
  await page.waitForFunction(() => !document.querySelector("[role=status]"), { timeout: 90000 });
  const words = await page.$eval('[aria-label="Not taken in"]', (e) => (e as HTMLElement).innerText);
  expect(words).toContain("2 files were not taken in");
  expect(words).toMatch(/tag 5\.png This is not a picture that can be read/);
  expect(words).toMatch(/notes\.txt This is not a picture/);
  const after = await tickets();
  expect(after).toHaveLength(before + 19);
  expect(after.slice(0, 2).map((t) => t.piece)).toEqual(["Tag 19", "Tag 18"]);
  await press(page, "Seen");
  await page.waitForFunction(() => !document.querySelector('[aria-label="Not taken in"]'));
});

test("stopped, the file under way is taken and the others are told; a drawing pasted as text is taken too", async () => {
  const before = (await tickets()).length;
  await dropAll(
    page,
    Array.from({ length: 24 }, (_, k) => svg(100 + k)),
  );
  await page.locator("button::-p-text(Stop after this one)").click();
  await page.waitForFunction(() => !document.querySelector("[role=status]"), { timeout: 60000 });
  const words = await page.$eval('[aria-label="Not taken in"]', (e) => (e as HTMLElement).innerText);
  const left = Number(/^\d+/.exec(words)![0]);
  expect(words).toContain("tag 123.svg Stopped before it.");
  expect((await tickets()).length).toBe(before + 24 - left);

  await page.evaluate(
    (text) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", text);
      document.body.dispatchEvent(
        new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
      );
    },
    Buffer.from(drawing(300)).toString(),
  );
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
  expect((await tickets())[0].artwork).toMatchObject({ kind: "SVG", name: "pasted.svg" });
});

test("a layer is switched on where pages are chosen, is seen in the small picture, and is drawn on the ticket", async () => {
  await dropPdf();
  await page.locator("label::-p-text(As cut)").click();
  const source = () => page.$eval('button[aria-label="Page 2"] img', (i) => (i as HTMLImageElement).src);
  expect(await source()).not.toContain("layers");
  await page.locator("label::-p-text(Card outline, cut)").click();
  expect(await source()).toContain("layers=Card%20outline");
  await page.locator('button[aria-label="Page 2"]').click();
  await page.locator("button::-p-text(Start a ticket)").click();
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  expect((await tickets())[0].artwork.layers).toEqual([{ name: "Card outline", drawn: true, cut: true }]);
});

test("page 2 of a designer's PDF is cut along the path that the file names as its cut", async () => {
  await dropPdf();
  await page.locator("label::-p-text(As cut)").click();
  await page.locator('button[aria-label="Page 2"]').click();
  await page.locator("button::-p-text(Start a ticket)").click();
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  await press(page, "Cut line");
  await press(page, "Put it on");
  await page.waitForSelector("b::-p-text(Card outline)");
  await press(page, "Cut along it");
  await settled(page);
  const id = (await tickets())[0].routes[0].id;
  const { from, offsetMm } = await savedAt(program, id, "cutLine", (s) => s.from === "drawing");
  expect([from, offsetMm]).toEqual(["drawing", 0]);
  const words = await page.$eval(
    'input[aria-label="Paths of the drawing"]',
    (i) => (i as HTMLInputElement).value,
  );
  expect(words).toBe("Card outline, cut");

  const { sets, widthMm, heightMm } = readSvgDrawing(
    (await handedOver(program, page, id)).files["cut.svg"].toString(),
  );
  expect([widthMm, heightMm]).toEqual([expect.closeTo(85, 1), expect.closeTo(55, 1)]);
  const rings = sets.flatMap((set) => ringsOf(set, 0.001));
  expect(rings).toHaveLength(1);
  // its own curves, not an outline of pixels: four straight sides and four quarter circles
  const [cut] = sets;
  expect(cut.points).toHaveLength(2 * (1 + 3 * 8));
  const corner = (1 - Math.PI / 4) * CARD_CORNER ** 2;
  expect(Math.abs(Math.abs(ringArea(rings[0])) - (85 * 55 - 4 * corner))).toBeLessThan(0.5);

  // The piece takes the same shape, where it lies.
  await press(page, "Size");
  await press(page, "Shape from the artwork's own paths");
  const { shape, widthMm: wide } = await savedAt(program, id, "size", (s) => s.shape.kind === "path");
  expect(shape).toMatchObject({ kind: "path", box: [0, 0, expect.closeTo(1, 3), expect.closeTo(1, 3)] });
  expect(wide).toBeCloseTo(85, 2);
});
