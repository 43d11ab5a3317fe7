import { type BatchView, type FontView } from "@hardline/contract";
import { readSvgDrawing } from "@hardline/core/drawing/readSvg";
import { pathData } from "@hardline/core/format/svg";
import { readyFonts, typefaceOf } from "@hardline/core/letters/shelf";
import { setWords } from "@hardline/core/letters/words";
import { runToEnd } from "@hardline/core/maths/work";
import { ringsOf } from "@hardline/core/path/flatten";
import { boxOf, pathSetOf } from "@hardline/core/path/pathSet";
import { evenOdd, without } from "@hardline/core/polygon/clip";
import { areaOf } from "@hardline/core/polygon/rings";
import { shippedFonts } from "@hardline/fonts";
import { unzipSync } from "fflate";
import { writeFile } from "node:fs/promises";
import { join } from "node:path";
import { tmpdir } from "node:os";
import { type Browser, type ElementHandle, type Page } from "puppeteer-core";
import sharp from "sharp";
import { benchOf, handedOver, savedAt } from "./atBench";
import { ended } from "./batchOf";
import { openBrowser, openPage, press, settled } from "./browser";
import { ask, newDatabase, startProgram, type Program } from "./harness";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
  await readyFonts(["slab", "grotesque", "sign"], shippedFonts);
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

const HOW = { trackingPercent: 0, leading: 1.6, align: "middle", bridgeMm: 0 } as const;
/** Words as a drawing: what the program is to come to, made by itself. */
const wordsIn = (font: string, text: string, capitalMm: number, more = {}) =>
  runToEnd(setWords(typefaceOf(font)!, { ...HOW, text, capitalMm, ...more })).paths;
const dataOf = (paths: ReturnType<typeof wordsIn>) =>
  pathData(pathSetOf({ name: "", use: "fill", colour: 0 }, paths));

/** Every closed line of a drawing that was handed over, read by the reader of drawings. */
const ringsIn = (svg: Buffer): Float64Array[] =>
  readSvgDrawing(svg.toString()).sets.flatMap((set) => ringsOf(set, 0.01));

/** Where a place of a piece of 100 by 60 mm lies, when all of it is shown. */
async function places(page: Page): Promise<(x: number, y: number) => [number, number]> {
  await page.keyboard.press("d");
  await new Promise((r) => setTimeout(r, 400));
  const { x, y, width, height } = await page.$eval("canvas[data-shown]", (c) =>
    c.getBoundingClientRect().toJSON(),
  );
  const [perMm, w, h] = [5, 100, 60];
  return (mx, my) => [x + width / 2 + (mx - w / 2) * perMm, y + height / 2 + (my - h / 2) * perMm];
}

/** A piece of 100 by 60 mm at five dots a millimetre. */
const PIECE = [{ stage: "size", widthMm: 100, dotsPerInch: 127 }, { stage: "trace" }];
const svgOf = (body: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="-50 -30 100 60">${body}</svg>`,
  );

test("letters that traced badly are known by their font, and set anew in it", async () => {
  const wanted = wordsIn("slab", "Harbour 24", 9);
  const small = await sharp(svgOf(`<path fill-rule="evenodd" d="${dataOf(wanted)}"/>`), { density: 100 })
    .flatten({ background: "#ffffff" })
    .png()
    .toBuffer();
  const { page, id } = await benchOf(program, browser, small, "Sign", PIECE);
  await press(page, "Trace");
  await page.keyboard.press("c");
  const at = await places(page);
  await page.mouse.move(...at(4, 16));
  await page.mouse.down();
  await page.mouse.move(...at(96, 44), { steps: 4 });
  await page.mouse.up();
  await press(page, "Which font is it?");
  const first = await page.waitForSelector('ol[aria-label="Fonts that it may be"] button', {
    timeout: 60000,
  });
  expect(await first!.evaluate((b) => b.textContent)).toMatch(/^Harbour 24Slab/);
  await first!.click();
  const { edits } = await savedAt(program, id, "trace", (s) => s.edits.some((e) => e.edit === "text"));
  expect(edits.at(-1)).toMatchObject({ edit: "text", font: "slab" });
  // They stay words that can be typed again.
  expect(await page.$eval('textarea[aria-label="Words"]', (t) => (t as HTMLTextAreaElement).value)).toBe(
    "Harbour 24",
  );
  const { files } = await handedOver(program, page, id);
  const made = evenOdd(ringsIn(files["trace.svg"]));
  const asked = evenOdd(
    ringsOf(pathSetOf({ name: "", use: "fill", colour: 0 }, wanted), 0.01).map((ring) =>
      ring.map((v, k) => v + (k % 2 ? 30 : 50)),
    ),
  );
  const off = Math.abs(areaOf(without(made, asked))) + Math.abs(areaOf(without(asked, made)));
  // Their size and place were read off the bad ones.
  expect(off).toBeLessThan(0.15 * areaOf(asked));
  await page.close();
});

async function retype(page: Page, box: ElementHandle, text: string): Promise<void> {
  await box.click({ count: 3 });
  await page.keyboard.down("Control");
  await page.keyboard.press("a");
  await page.keyboard.up("Control");
  await page.keyboard.type(text);
  await settled(page);
}

test("a badge: words round a circle outside, and inside at its foot", async () => {
  const { page, id } = await benchOf(
    program,
    browser,
    svgOf('<circle r="27" fill="none" stroke="#000" stroke-width="1"/>'),
    "Badge",
    PIECE,
  );
  await press(page, "Trace");
  await page.keyboard.press("a");
  const at = await places(page);
  await page.mouse.click(...at(50, 30));
  let box = await page.waitForSelector('textarea[aria-label="Words"]');
  await retype(page, box!, "LOW QUAY");
  await press(page, "a circle");
  await savedAt(
    program,
    id,
    "trace",
    (s) => s.edits[0]?.edit === "text" && s.edits[0].along?.kind === "circle",
  );
  await page.keyboard.press("Escape");
  await page.mouse.click(...at(8, 55));
  await page.waitForFunction(
    () => document.querySelector<HTMLTextAreaElement>('textarea[aria-label="Words"]')?.value === "Words",
  );
  box = await page.$('textarea[aria-label="Words"]');
  await retype(page, box!, "1908");
  const { edits } = await savedAt(program, id, "trace", (s) => s.edits.length === 2);
  expect(edits[0]).toMatchObject({ text: "LOW QUAY", along: { kind: "circle", side: "outside" } });
  expect(edits[1]).toMatchObject({ text: "1908" });
  const { files } = await handedOver(program, page, id);
  const rings = ringsIn(files["trace.svg"]);
  // The ring's two lines, eight letters of which O, Q and A have insides, four figures of which 9, 0 and 8 have.
  expect(rings).toHaveLength(2 + 7 + 3 + 4 + 4);
  await page.close();
});

test("thirty names fill the words of a route: every one fits its box, and is in the archive", async () => {
  const first = "Ada,Wilhelmina,Žoë,Bartholomew,Jo,Anneliese".split(",");
  const last = "Featherstonehaugh,Öz,Larkhill,Ó Súilleabháin,Quay".split(",");
  const names = first.flatMap((f) => last.map((l) => `${f} ${l}`));
  expect(names).toHaveLength(30);
  const table = join(tmpdir(), `names-${process.pid}.csv`);
  await writeFile(table, `name\n${names.join("\n")}\n`);
  const { page, id } = await benchOf(program, browser, svgOf(""), "Tags", [
    PIECE[0],
    {
      stage: "trace",
      edits: [
        {
          ...{ edit: "text", text: "Name", at: [0.5, 0.5], capitalMm: 12, field: "name" },
          box: { widthMm: 80, heightMm: 30, tooLong: "break" },
        },
      ],
    },
  ]);
  await press(page, "Trace");
  await page.keyboard.press("a");
  await press(page, "Fill from a table");
  const input = await page.waitForSelector<"input">('input[type=file][accept^=".csv"]' as "input");
  await input!.uploadFile(table);
  await page.waitForSelector("[role=status] ::-p-text(30 rows, all fit)", { timeout: 60000 });
  await press(page, "Begin, 30");
  await page.waitForFunction(() => location.pathname === "/batches");
  const [{ id: batch }] = await ask<BatchView[]>(`${program.url}/api/batches`);
  const { batch: done } = await ended(program.url, batch);
  expect(done.counts).toMatchObject({ done: 30, failed: 0 });
  const zip = unzipSync(
    new Uint8Array(await (await fetch(`${program.url}/api/batches/${batch}/zip`)).arrayBuffer()),
  );
  const drawings = Object.keys(zip).filter((name) => name.endsWith("trace.svg"));
  expect(drawings).toHaveLength(30);
  for (const name of drawings) {
    const rings = ringsIn(Buffer.from(zip[name]));
    const box = boxOf(
      pathSetOf(
        { name: "", use: "fill", colour: 0 },
        rings.map((ring) => ({
          closed: true,
          knots: Array.from({ length: ring.length / 2 }, (_, k) => ({
            at: [ring[2 * k], ring[2 * k + 1]] as const,
          })),
        })),
      ),
    )!;
    expect(box.width).toBeLessThan(80.05);
    expect(box.height).toBeLessThan(30.05);
  }
  const { edits } = await savedAt(program, id, "trace", () => true);
  expect(edits).toHaveLength(1);
  await page.close();
});

test("words without a picture start a ticket, in the shop's own font, and can be typed again", async () => {
  const bytes = await shippedFonts.bytes("sign");
  // A font of the shop's own: any that is not known by its file yet.
  const own = new Uint8Array([...bytes, 0, 0, 0, 0]);
  const response = await fetch(`${program.url}/api/fonts`, {
    method: "POST",
    body: own,
    headers: { "Content-Type": "application/octet-stream" },
  });
  const { key, title } = (await response.json()) as FontView;
  const page = await openPage(browser, program.url);
  await page.waitForSelector("h1");
  await press(page, "Words");
  await page.waitForSelector("[role=dialog] input");
  await page.keyboard.type("Number 9");
  await press(page, "Start a ticket");
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"));
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  const ticket = await page.evaluate(() => location.pathname.split("/")[2]);
  const [{ id }] = (await ask<{ routes: { id: string }[] }>(`${program.url}/api/tickets/${ticket}`)).routes;
  await press(page, "Trace");
  await page.keyboard.press("a");
  const middle = await page.$eval("canvas[data-shown]", (c) => {
    const { x, y, width, height } = c.getBoundingClientRect();
    return [x + width / 2, y + height / 2] as const;
  });
  await page.mouse.click(...middle);
  await page.waitForSelector('textarea[aria-label="Words"]');
  await page.click('input[aria-label="Font"]');
  await page.waitForSelector(`[role=option] ::-p-text(${title})`);
  const options = await page.$$("[role=option]");
  await options[options.length - 1].click();
  const { edits } = await savedAt(
    program,
    id,
    "trace",
    (s) => s.edits[0]?.edit === "text" && s.edits[0].font === key,
  );
  expect(edits).toHaveLength(1);
  const { files } = await handedOver(program, page, id);
  const rings = ringsIn(files["trace.svg"]);
  // N u m b e r 9: b, e and 9 have insides.
  expect(rings).toHaveLength(7 + 3);
  await page.close();
});

test("shapes are copied with Alt, turned and aligned by hand, and each is one undo", async () => {
  const { page, id } = await benchOf(
    program,
    browser,
    svgOf('<rect x="-40" y="-20" width="14" height="10"/><circle cx="10" cy="10" r="8"/>'),
    "Shapes",
    PIECE,
  );
  await press(page, "Trace");
  await page.keyboard.press("c");
  const at = await places(page);
  await page.mouse.click(...at(14, 15));
  await page.waitForSelector('[data-told^="1 of"]');
  await page.keyboard.down("Alt");
  await page.mouse.move(...at(14, 15));
  await page.mouse.down();
  await page.mouse.move(...at(25, 25), { steps: 4 });
  await page.mouse.move(...at(34.5, 35.3), { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up("Alt");
  const copied = await savedAt(program, id, "trace", (s) => s.edits.length === 1);
  expect(copied.edits[0]).toMatchObject({ edit: "transform", copies: 1, turnDegrees: 0 });
  await press(page, "Turn");
  const turned = await savedAt(program, id, "trace", (s) => s.edits.length === 2);
  expect(turned.edits[1]).toMatchObject({ edit: "transform", copies: 0, turnDegrees: 90 });
  const { files } = await handedOver(program, page, id);
  const boxes = ringsIn(files["trace.svg"])
    .map((ring) => {
      const [xs, ys] = [0, 1].map((o) => Array.from(ring).filter((_, k) => k % 2 === o));
      return [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)].map(Math.round).join(" ");
    })
    .sort();
  expect(boxes).toEqual(["10 14", "14 10", "16 16"]);
  await press(page, "Undo");
  await savedAt(program, id, "trace", (s) => s.edits.length === 1);
  await page.close();
});
