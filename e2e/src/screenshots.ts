import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { tmpdir } from "node:os";
import { ARTWORKS, paperPhotograph, thingPhotograph } from "@hardline/demo";
import { type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled } from "./browser";
import { drop } from "./drop";
import { ROOT } from "./harness";

/* Pictures of the main views for docs/screenshots, taken from a running program with the demo data. */
const SHOTS = join(ROOT, "docs/screenshots");
const BASE = process.env.HARDLINE_URL ?? "http://127.0.0.1:4280";
/** Which of the rendered photographs: a pale card on a carpet, half in shadow. */
const CARD = 7;
const rest = (ms: number) => new Promise((r) => setTimeout(r, ms));

async function bench(page: Page, path: string): Promise<void> {
  await page.goto(`${BASE}${path}`, { waitUntil: "domcontentloaded" });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  await rest(600);
}

/** Scrolls the docket so that a part of it is seen. */
const inView = (page: Page, selector: string, block: ScrollLogicalPosition): Promise<void> =>
  page.$eval(selector, (e, where) => e.scrollIntoView({ block: where }), block);

/** A ticket of an artwork with a route. @returns its id */
async function ticketOf(art: Buffer, piece: string, route: object): Promise<string> {
  const asked = async <T>(path: string, method: string, body?: BodyInit, type = "application/json") =>
    (await (await fetch(BASE + path, { method, body, headers: { "Content-Type": type } })).json()) as T;
  const { id } = await asked<{ id: string }>(
    "/api/artworks?name=art.svg",
    "POST",
    new Uint8Array(art),
    "application/octet-stream",
  );
  const ticket = await asked<{ id: string; routes: { id: string }[] }>(
    "/api/tickets",
    "POST",
    JSON.stringify({ artworkId: id, piece, customer: "Low Quay Chandlery" }),
  );
  const path = `/api/routes/${ticket.routes[0].id}`;
  const { version } = await asked<{ version: number }>(path, "GET");
  const whole = { format: "hard-line-route", version: 1, name: "First route", ...route };
  await asked(path, "PUT", JSON.stringify({ version, route: whole }));
  return ticket.id;
}

/** The contact sheet of the route on the bench, as it is handed over. */
async function contactSheet(page: Page): Promise<{ routeId: string; sheet: Buffer }> {
  const routeId = /routes\/(\d+)/.exec(page.url())![1];
  await press(page, "Hand over files");
  await page.waitForFunction(
    () => document.querySelector("a[href$='/zip']") && !document.querySelector("[role=progressbar]"),
    { timeout: 180000 },
  );
  const renders = (await (await fetch(`${BASE}/api/routes/${routeId}/renders`)).json()) as {
    files: { name: string; url: string }[];
  }[];
  const file = renders[0].files.find((f) => f.name.endsWith("contact-sheet.png"))!;
  return { routeId, sheet: Buffer.from(await (await fetch(BASE + file.url)).arrayBuffer()) };
}

/** A mug that was photographed, its two edges set up, with a print on it. */
async function ownPhotograph(page: Page): Promise<void> {
  const { bare, seen, widthMm, heightMm } = thingPhotograph(1, 2);
  const { width, height, data } = bare;
  const mug = join(tmpdir(), "the tea room's mug.png");
  await sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .png()
    .toFile(mug);
  await bench(
    page,
    `/tickets/${await ticketOf(await ARTWORKS["sailing-week.svg"](), "Mugs for the tea room", MUG)}`,
  );
  const input = await page.waitForSelector('input[aria-label="Photograph of a thing"]');
  await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(mug);
  await page.waitForFunction(() => document.body.innerText.includes("Drag the four corners"), {
    timeout: 30000,
  });
  await page.locator("[role=radio]::-p-text(round)").click();
  await settled(page);
  const box = await page.$eval("canvas[data-shown]", (c) => c.getBoundingClientRect().toJSON() as DOMRect);
  // As large as fits, less the table's margins.
  const wide = Math.min(box.width - 72, ((box.height - 112) * width) / height);
  const on = {
    x: box.x + (box.width - wide) / 2,
    y: box.y + (box.height - 28 - (wide * height) / width) / 2,
  };
  const half = widthMm / 2;
  const places = [0, heightMm].flatMap((y) => [-half, 0, half].map((x) => seen(x, y)));
  for (const [k, place] of places.entries()) {
    const at = await page.$eval("[data-told]", (e) =>
      (e as HTMLElement).dataset.told!.split(" ").map((p) => p.split(",").map(Number)),
    );
    await page.mouse.move(on.x + at[k][0] * wide, on.y + (at[k][1] * wide * height) / width);
    await page.mouse.down();
    await page.mouse.move(on.x + (place[0] / width) * wide, on.y + (place[1] / width) * wide, { steps: 4 });
    await page.mouse.up();
  }
  await page.mouse.move(20, 400);
  await settled(page);
  await inView(page, '[aria-label="Kind of the area"]', "center");
  await rest(1200);
}

/** A colleague's comment, two changes of a route, and the one before them under the wipe. */
async function history(page: Page): Promise<void> {
  const asked = async <T>(path: string, method = "GET", json?: object) =>
    (await (
      await fetch(BASE + path, {
        ...(json ? { body: JSON.stringify(json) } : {}),
        ...{ method, headers: { "Content-Type": "application/json" } },
      })
    ).json()) as T;
  interface Seen {
    readonly version: number;
    readonly revision: number;
    readonly route: { readonly stages: readonly { readonly stage: string }[] };
  }
  const first = await asked<Seen>("/api/routes/1");
  await asked(`/api/routes/1/revisions/${first.revision}/approvals`, "POST", {
    by: "Mrs Lang, by telephone",
  });
  const change = async (stage: string, settings: object) => {
    const { version, route } = await asked<Seen>("/api/routes/1");
    const stages = route.stages.map((s) => (s.stage === stage ? { ...s, ...settings } : s));
    await asked("/api/routes/1", "PUT", { version, route: { ...route, stages } });
  };
  await change("tone", { invert: false, black: 0.08 });
  await change("blackWhite", { kernel: "atkinson" });
  await bench(page, "/tickets/1/routes/1?stage=history");
  await page.locator(`button[title="Compare revision ${first.revision}"]`).click();
  await rest(3000);
  await inView(page, '[aria-label="By whom"]', "start");
  await rest(500);
}

/** A print of 60 mm for a mug. */
const MUG = {
  stages: [
    { stage: "size", widthMm: 60, dotsPerInch: 300 },
    { stage: "transfer" },
    { stage: "mockUp", thing: "mug" },
  ],
};

async function main(): Promise<void> {
  mkdirSync(SHOTS, { recursive: true });
  const { browser, close } = await openBrowser();
  const page = await openPage(browser, BASE);
  const take = async (name: string) => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await rest(250);
    await page.screenshot({ path: join(SHOTS, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
  };
  await page.waitForSelector("a[data-ticket]");
  // A server that has just begun takes a while for its first pictures.
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLImageElement>("a[data-ticket] img")].every((i) => i.complete),
  );
  await rest(600);
  await take("board");
  const { picture, corners } = await paperPhotograph(CARD);
  const { width, height, data } = picture;
  const jpeg = sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: 92 });
  const shown = page.url();
  await drop(page, await jpeg.toBuffer(), "card from the post.jpg", "image/jpeg");
  await page.waitForFunction((before) => location.href !== before, { timeout: 30000 }, shown);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  await press(page, "Size");
  await press(page, "Make a paper flat");
  await page.waitForSelector('[data-told*=","]', { timeout: 30000 });
  await settled(page);
  const table = (await (await page.$("[data-told]"))!.boundingBox())!;
  const zoom = Math.min((table.width - 72) / width, (table.height - 128) / height);
  const [x, y] = [
    table.x + Math.round((table.width - width * zoom) / 2) + corners[1][0] * zoom,
    table.y + Math.round(52 + (table.height - 128 - height * zoom) / 2) + corners[1][1] * zoom,
  ];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 3, y - 2, { steps: 3 });
  await rest(600);
  await take("size-paper");
  await page.mouse.move(x, y);
  await page.mouse.up();

  await bench(page, "/tickets/7");
  await press(page, "Clear");
  await page.mouse.move(560, 200, { steps: 4 });
  await rest(900);
  await take("clear-pick");
  await bench(page, "/tickets/12");
  await page.locator("button::-p-text(On a hooded top)").click();
  await settled(page);
  await inView(page, '[aria-label="The thing that it is put on"]', "center");
  await rest(1500);
  await take("mock-up");
  const { routeId, sheet } = await contactSheet(page);
  await sharp(sheet).resize(1280).png({ compressionLevel: 9 }).toFile(join(SHOTS, "contact-sheet.png"));
  console.log(`docs/screenshots/contact-sheet.png, of route ${routeId}`);
  await ownPhotograph(page);
  await take("own-photograph");

  await bench(page, "/tickets/1/routes/1");
  await press(page, "Tone");
  await page.keyboard.press("w");
  await page.select('[aria-label="Right of the edge"]', "blackWhite");
  await settled(page);
  await take("bench-tone");

  await page.keyboard.press("w");
  await bench(page, "/tickets/4");
  await page.mouse.move(674, 500);
  for (let k = 0; k < 2; k++) await page.mouse.wheel({ deltaY: -100 });
  await page.keyboard.press("p");
  await rest(600);
  // A point and its handles, chosen.
  await page.mouse.click(674, 336);
  await page.mouse.move(20, 400);
  await inView(page, '[aria-label="Edit the paths"]', "end");
  await rest(900);
  await take("trace");

  await bench(page, "/tickets/3");
  await page.locator("button::-p-text(In colours)").click();
  await settled(page);
  await press(page, "Colour");
  await settled(page);
  await rest(900);
  await take("colour");

  await bench(page, "/tickets/2");
  await page.locator("button::-p-text(Tag, cut out)").click();
  await page.waitForSelector('[aria-label="Gaps, largest first"]');
  await settled(page);
  await inView(page, '[aria-label="Gaps, largest first"]', "center");
  await rest(1200);
  await take("cut-line");

  await page.goto(`${BASE}/materials`);
  await page.waitForSelector("tbody tr");
  await rest(900);
  await take("materials");
  await page.goto(`${BASE}/sheets/1`);
  await page.waitForSelector("button:not([disabled])::-p-text(Arrange)", { timeout: 60000 });
  await rest(1500);
  await take("sheet");
  await page.goto(`${BASE}/machines`);
  await rest(2500);
  await take("machines");
  await page.goto(`${BASE}/runs/1`);
  await page.waitForFunction(() => document.body.innerText.includes("dot for dot"), { timeout: 120000 });
  await page.locator("[role=radio]::-p-text(10×)").click();
  await rest(1500);
  const slider = (await (await page.$("[aria-label='Play the run'] .mantine-Slider-root"))!.boundingBox())!;
  await page.mouse.click(slider.x + slider.width * 0.62, slider.y + slider.height / 2);
  await press(page, "Play");
  await rest(1500);
  await take("run-playing");

  await bench(page, "/tickets/14");
  await settled(page);
  await inView(page, '[aria-label="Inks in print order"]', "center");
  await rest(1500);
  await take("films-on-navy");

  await bench(page, "/tickets/1/routes/1");
  await press(page, "Hand over files");
  await rest(2500);
  await page.waitForFunction(
    () => document.querySelector("a[href$='/zip']") && !document.querySelector("[role=progressbar]"),
    { timeout: 60000 },
  );
  await rest(600);
  await take("hand-over");

  await history(page);
  await take("history");
  await page.goto(`${BASE}/people`);
  await page.waitForSelector("tbody tr");
  await rest(900);
  await take("people");
  // As from elsewhere, where the demo asks.
  await page.setExtraHTTPHeaders({ "X-Forwarded-For": "192.0.2.7" });
  await page.goto(BASE);
  await page.waitForSelector("form h1");
  await rest(600);
  await take("sign-in");
  await close();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
