import {
  type CommentView,
  type RenderView,
  type RevisionsView,
  type RouteView,
  type TicketView,
} from "@hardline/contract";
import { settingsOf } from "@hardline/core/route/route";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { handedOver, savedAt } from "./atBench";
import { fill, openBrowser, openPage, press, settled, type } from "./browser";
import { addTicket, ask, newDatabase, startProgram, type Program } from "./harness";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

/** A dark disc on white: dots on one side of the wipe, others on the other. */
const disc = () =>
  sharp(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="240" height="180"><rect width="240" height="180" fill="#fff"/><circle cx="120" cy="90" r="70" fill="#555"/></svg>',
    ),
  )
    .png()
    .toBuffer();
const STAGES = [
  { stage: "size", widthMm: 40, dotsPerInch: 254 },
  { stage: "tone" },
  { stage: "blackWhite", method: "scatter", kernel: "stucki" },
  { stage: "cutLine", edits: [{ edit: "text", text: "Ann", at: [0.5, 0.5], capitalMm: 6 }] },
];

async function ticketOf(name: string, stages: readonly object[] = STAGES) {
  return addTicket(program.url, await disc(), `${name}.png`, stages, {
    piece: name,
    customer: "Corran Café",
  });
}

async function benchAt(path: string, of = browser.defaultBrowserContext()): Promise<Page> {
  const page = await of.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${program.url}${path}`, { waitUntil: "domcontentloaded" });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  return page;
}

/** Somebody else's browser, by a PIN. */
async function rowan(): Promise<Page> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${program.url}/people`, { waitUntil: "domcontentloaded" });
  await page.waitForSelector("h1::-p-text(People)");
  await page.locator('nav button[aria-label^="Ida Vell"]').click();
  await press(page, "Change of person", "[role=menuitem]");
  await page.locator('[role=dialog] input[aria-haspopup="listbox"]').click();
  await page.locator("[role=option]::-p-text(Rowan Tate)").click();
  await page.locator("#pin-1").click();
  await page.keyboard.type("2580");
  await Promise.all([page.waitForNavigation(), press(page, "Change", "[role=dialog] button")]);
  await page.waitForSelector('nav button[aria-label^="Rowan Tate"]');
  return page;
}

const revisionsOf = (id: string) => ask<RevisionsView>(`${program.url}/api/routes/${id}/revisions`);

/** How light a part of the light table is in the mean, from 0 to 255: the part by fractions of the table. */
const lightness = (page: Page, part: readonly [x: number, y: number, width: number, height: number]) =>
  page.$eval(
    "canvas[data-shown]",
    (c, [x, y, w, h]) => {
      const canvas = c as HTMLCanvasElement;
      const [width, height] = [canvas.width, canvas.height];
      const { data } = canvas.getContext("2d")!.getImageData(x * width, y * height, w * width, h * height);
      let sum = 0;
      for (let k = 0; k < data.length; k += 4) sum += data[k + 1];
      return sum / (data.length / 4);
    },
    part,
  );

test("two revisions lie under the wipe, one is brought back, and its files are the same bytes as then", async () => {
  const { ticket, route } = await ticketOf("Discs");
  const page = await benchAt(`/tickets/${ticket.id}?stage=tone`);
  const then = await handedOver(program, page, route.id);
  const now = await ask<RouteView>(`${program.url}/api/routes/${route.id}`);
  await page.close();
  const bright = await ask<RouteView>(`${program.url}/api/routes/${route.id}`, "PUT", {
    version: now.version,
    route: {
      ...now.route,
      stages: now.route.stages.map((s) => (s.stage === "blackWhite" ? { ...s, material: "burns-pale" } : s)),
    },
  });
  const again = await benchAt(`/tickets/${ticket.id}?stage=history`);
  await again.waitForSelector('button[title="Compare revision 2"]');
  await again.keyboard.press("f");
  // Right of the edge the route as it stands, left of it the one before: the ground is the other's opposite.
  await again.locator(`button[title="Compare revision ${now.revision}"]`).click();
  await again.waitForSelector("span::-p-text(as it stands)");
  await again.waitForFunction(
    () => document.querySelectorAll("[aria-pressed=true][title^=Compare]").length === 1,
  );
  await new Promise((r) => setTimeout(r, 2500));
  const beside = async (x: number) => lightness(again, [x, 0.4, 0.06, 0.12]);
  const [left, right] = [await beside(0.43), await beside(0.51)];
  expect(Math.abs(left - right)).toBeGreaterThan(30);
  // Under the edge lies one picture: at the same place both halves of the disc were alike before.
  await press(again, "Done", "section button");
  await new Promise((r) => setTimeout(r, 1500));
  expect(Math.abs((await beside(0.43)) - (await beside(0.51)))).toBeLessThan(12);
  await again.locator(`button[title="Compare revision ${now.revision}"]`).click();
  await press(again, "Name", "li button");
  await again.keyboard.type("as first sent");
  await press(again, "Keep", "form button");
  await again.waitForSelector("b::-p-text(as first sent)");
  await press(again, "Approved", "li button");
  await again.keyboard.type("Mrs Corran, by telephone");
  await press(again, "Keep", "form button");
  await again.waitForSelector("span::-p-text(approved: Mrs Corran)");
  await press(again, "Bring back", "li button");
  await again.waitForSelector(`span::-p-text(brought back r${now.revision})`);
  const back = await ask<RouteView>(`${program.url}/api/routes/${route.id}`);
  expect([back.revision, back.route]).toEqual([bright.revision + 1, now.route]);
  await settled(again);
  await press(again, "Hand over files");
  await again.waitForFunction(
    async (url, revision) => {
      const [latest] = (await (await fetch(url)).json()) as { state: string; revision: number }[];
      return latest.state === "done" && latest.revision === revision;
    },
    { polling: 300, timeout: 60000 },
    `/api/routes/${route.id}/renders`,
    back.revision,
  );
  const [latest] = await ask<RenderView[]>(`${program.url}/api/routes/${route.id}/renders`);
  expect(latest.revision).toBe(back.revision);
  expect(latest.dotsSha256).toBe(then.dots);
  for (const file of latest.files.filter((f) => /\.(png|svg)$/.test(f.name))) {
    const bytes = Buffer.from(await (await fetch(`${program.url}${file.url}`)).arrayBuffer());
    const name = Object.keys(then.files).find((n) => file.name.endsWith(n))!;
    expect([file.name, bytes.equals(then.files[name])]).toEqual([file.name, true]);
  }
  await again.close();
});

test("two at one ticket see each other; what touches other settings is had both, the same one is asked about", async () => {
  const { ticket, route } = await ticketOf("Shared");
  const ida = await benchAt(`/tickets/${ticket.id}?stage=size`);
  const other = await rowan();
  await other.goto(`${program.url}/tickets/${ticket.id}?stage=cutLine`, { waitUntil: "domcontentloaded" });
  await other.waitForSelector("canvas[data-shown]");
  await settled(other);
  await ida.bringToFront();
  await ida.waitForSelector('[title="Rowan Tate is here too"]');

  // Nothing is unsaved here: it appears.
  const told = ida.waitForSelector("div::-p-text(Rowan Tate changed this route)", { timeout: 60000 });
  const how = ida.waitForFunction(() => document.body.textContent.includes("smooth 0.5 mm, was 0"), {
    ...{ timeout: 60000, polling: 200 },
  });
  await other.bringToFront();
  await type(other, "Smooth, typed", "0.5");
  await savedAt(program, route.id, "cutLine", (s) => s.smoothMm === 0.5);
  // A page that nobody sees does not listen; in front again it hears what it missed.
  await ida.bringToFront();
  await Promise.all([told, how]);

  // Both at once, the line to the server cut for one of them: neither is asked anything.
  await ida.setOfflineMode(true);
  await type(ida, "Width", "50");
  await other.bringToFront();
  await type(other, "Smooth, typed", "0.8");
  await savedAt(program, route.id, "cutLine", (s) => s.smoothMm === 0.8);
  await ida.bringToFront();
  await ida.setOfflineMode(false);
  await savedAt(program, route.id, "size", (s) => s.widthMm === 50);
  const both = (await ask<RouteView>(`${program.url}/api/routes/${route.id}`)).route;
  expect([settingsOf(both, "size")!.widthMm, settingsOf(both, "cutLine")!.smoothMm]).toEqual([50, 0.8]);
  expect(await ida.$("[role=dialog]::-p-text(changed in another window)")).toBeNull();
  const people = (await revisionsOf(route.id)).revisions.map((r) => r.by.name);
  expect(people.slice(0, 3)).toEqual(["Ida Vell", "Rowan Tate", "Rowan Tate"]);

  // The same setting, each to something else.
  await ida.setOfflineMode(true);
  await type(ida, "Width", "55");
  const seen = await ask<RouteView>(`${program.url}/api/routes/${route.id}`);
  await ask(`${program.url}/api/routes/${route.id}`, "PUT", {
    version: seen.version,
    route: {
      ...seen.route,
      stages: seen.route.stages.map((s) => (s.stage === "size" ? { ...s, widthMm: 66 } : s)),
    },
  });
  await ida.setOfflineMode(false);
  await ida.waitForSelector("h2::-p-text(changed in another window)", { timeout: 20000 });
  await press(ida, "Keep mine");
  await savedAt(program, route.id, "size", (s) => s.widthMm === 55);
  await other.browserContext().close();
  await ida.waitForFunction(() => !document.querySelector('[title="Rowan Tate is here too"]'), {
    timeout: 15000,
  });
  await ida.close();
});

test("a comment points at a place, the colleague sees it there, and sees to it", async () => {
  const { ticket } = await ticketOf("Pointed");
  const ida = await benchAt(`/tickets/${ticket.id}?stage=comments`);
  await ida.locator('textarea[aria-label="New comment"]').click();
  await ida.keyboard.type("The edge is too soft here.");
  await press(ida, "Point at a place");
  const table = await ida.$eval("canvas[data-shown]", (c) => c.getBoundingClientRect().toJSON() as DOMRect);
  const at = [table.x + table.width / 2, table.y + (table.height - 28) / 2] as const;
  await ida.mouse.click(...at);
  await ida.waitForSelector("span::-p-text(+)");
  await press(ida, "Comment", "form button");
  await ida.waitForSelector("p::-p-text(The edge is too soft here.)");
  const [comment] = await ask<CommentView[]>(`${program.url}/api/tickets/${ticket.id}/comments`);
  // The middle of the table is the middle of the picture.
  expect(comment.place!.map((v) => Math.abs(v - 0.5) < 0.03)).toEqual([true, true]);
  const other = await rowan();
  await other.goto(`${program.url}/tickets/${ticket.id}?stage=comments`, { waitUntil: "domcontentloaded" });
  const pin = await other.waitForSelector('[title^="Ida Vell: The edge"]');
  const box = (await pin!.boundingBox())!;
  expect(Math.hypot(box.x + box.width / 2 - at[0], box.y + box.height / 2 - at[1])).toBeLessThan(3);
  await press(other, "Seen to", "li button");
  await ida.bringToFront();
  await ida.waitForSelector("span::-p-text(Rowan Tate,)");
  await other.browserContext().close();
  await ida.close();
});

test("an old ticket is ordered again in three clicks, with another name and number", async () => {
  const { ticket } = await ticketOf("Name plate");
  const page = await openPage(browser, `${program.url}/customers`);
  await page.waitForSelector("input[aria-label='Find a customer']");
  await page.type("input[aria-label='Find a customer']", "corr");
  await page.locator("tbody a::-p-text(Corran Café)").click(); // one
  await page.waitForSelector(`tr a[href="/tickets/${ticket.id}"]`);
  await page.evaluate(
    (id) =>
      document.querySelector(`tr a[href="/tickets/${id}"]`)!.closest("tr")!.querySelector("button")!.click(),
    ticket.id,
  ); // two
  await fill(page, "Words", "Berit");
  await press(page, "Make the ticket"); // three
  await page.waitForSelector("canvas[data-shown]");
  await settled(page);
  const id = page.url().split("/").at(-1)!.split("?")[0];
  const again = await ask<TicketView>(`${program.url}/api/tickets/${id}`);
  expect(again).toMatchObject({ piece: "Name plate", customer: "Corran Café", due: null });
  expect(again.artwork.id).toBe(ticket.artwork.id);
  const { route } = await ask<RouteView>(`${program.url}/api/routes/${again.routes[0].id}`);
  expect(settingsOf(route, "cutLine")!.edits).toMatchObject([{ text: "Berit" }]);
  // The words are cut: what is handed over has five letters in the place of three.
  const { files } = await handedOver(program, page, again.routes[0].id);
  const svg = files[Object.keys(files).find((n) => n.endsWith(".svg"))!].toString();
  const old = await ask<RouteView>(`${program.url}/api/routes/${ticket.routes[0].id}`);
  expect(settingsOf(old.route, "cutLine")!.edits).toMatchObject([{ text: "Ann" }]);
  expect((svg.match(/[Mm]\s*-?[\d.]/g) ?? []).length).toBeGreaterThan(6);
  await page.goto(`${program.url}/today`);
  await page.waitForSelector("span::-p-text(ordered again)");
  await page.close();
});
