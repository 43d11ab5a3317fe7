import { type RouteView, type SessionView, type TicketsView } from "@hardline/contract";
import { type Browser, type BrowserContext, type Page } from "puppeteer-core";
import axe, { type AxeResults } from "axe-core";
import { fill, openBrowser, press, settled, type } from "./browser";
import { newDatabase, photographOf, startProgram, type Program } from "./harness";
import { PASSWORD } from "./visitor";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;

beforeAll(async () => {
  program = await startProgram(await newDatabase(), [], { HARDLINE_DEMO: "0" });
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

/** A browser of one's own. */
async function browserOf(): Promise<BrowserContext> {
  return browser.createBrowserContext();
}
async function pageAt(context: BrowserContext, path: string): Promise<Page> {
  const page = await context.newPage();
  page.setDefaultTimeout(15000);
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(path.startsWith("http") ? path : `${program.url}${path}`, {
    waitUntil: "domcontentloaded",
  });
  return page;
}

const at = async <T>(page: Page, path: string, init: object = {}): Promise<T> =>
  page.evaluate(async (p, i) => (await fetch(p, i)).json() as Promise<unknown>, path, init) as Promise<T>;

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
  return found.violations.flatMap((v) => v.nodes.slice(0, 3).map((n) => `${v.id}: ${n.html.slice(0, 160)}`));
}

test("the owner comes in by the printed code, invites an operator, who sets a PIN and takes over a shared bench", async () => {
  const own = await browserOf();
  const page = await pageAt(own, "/");
  await page.waitForSelector("h1::-p-text(Who owns this shop?)");
  expect(await broken(page)).toEqual([]);
  const [code] = /[A-Z0-9]{4}-[A-Z0-9]{4}-[A-Z0-9]{4}/.exec(program.said())!;
  await fill(page, "Code", code);
  await fill(page, "Your name", "Ann Orrin");
  await fill(page, "Password", "password1234");
  await press(page, "Begin");
  await page.waitForSelector("[role=alert]::-p-text(list of common passwords)");
  await fill(page, "Password", PASSWORD);
  await press(page, "Begin");
  await page.waitForSelector("h1::-p-text(Tickets)");

  await page.locator('nav button[aria-label^="Ann Orrin"]').click();
  await press(page, "People of the shop", "[role=menuitem]");
  await press(page, "Invite somebody");
  await fill(page, "Name", "Rowan Tate");
  await press(page, "Invite", "form button");
  const way = await (await page.waitForSelector("[role=dialog] div::-p-text(/join/)"))!.evaluate(
    (e) => /http\S+\/join\/[\w-]+/.exec(e.textContent)![0],
  );
  expect(await broken(page)).toEqual([]);
  await press(page, "Done");

  const theirs = await browserOf();
  const other = await pageAt(theirs, way);
  await other.waitForSelector("h1::-p-text(Welcome, Rowan Tate)");
  expect(await broken(other)).toEqual([]);
  await fill(other, "Password", PASSWORD);
  await fill(other, "Once more", PASSWORD);
  await press(other, "Come in");
  await other.waitForSelector('nav button[aria-label^="Rowan Tate"]');
  // People are not an operator's affair.
  await other.locator('nav button[aria-label^="Rowan Tate"]').click();
  await other.waitForSelector("[role=menuitem]::-p-text(Sign out)");
  expect(await other.$("[role=menuitem]::-p-text(People of the shop)")).toBeNull();
  await press(other, "Password, PIN", "[role=menuitem]");
  await fill(other, "Your password now", PASSWORD);
  await fill(other, "PIN", "2907");
  await press(other, "Set", "[role=dialog] button");
  await other.waitForSelector("div::-p-text(The PIN is set.)");
  await theirs.close();

  // The way in was used: whoever finds it finds nothing.
  const finder = await pageAt(await browserOf(), way);
  await finder.waitForSelector("[role=alert]::-p-text(not open any more)");
  await finder.close();

  await page.locator('nav button[aria-label^="Ann Orrin"]').click();
  await press(page, "Change of person", "[role=menuitem]");
  await page.locator("#pin-1").click();
  await page.keyboard.type("2908");
  await press(page, "Change", "[role=dialog] button");
  await page.waitForSelector("[role=alert]::-p-text(not that person's PIN)");
  await page.locator("#pin-1").click();
  await page.keyboard.type("2907");
  await Promise.all([page.waitForNavigation(), press(page, "Change", "[role=dialog] button")]);
  await page.waitForSelector('nav button[aria-label^="Rowan Tate"]');
  expect(await at<SessionView>(page, "/api/session")).toMatchObject({
    by: "pin",
    rights: ["see", "make", "run"],
  });
  await own.close();
});

test("whoever is signed out in the middle of work is asked over the page, and nothing of it is lost", async () => {
  const context = await browserOf();
  const page = await pageAt(context, "/");
  await page.waitForSelector("h1::-p-text(Sign in)");
  expect(await broken(page)).toEqual([]);
  const signIn = async () => {
    await fill(page, "Name", "Rowan Tate");
    await fill(page, "Password", PASSWORD);
    await press(page, "Sign in", "form button");
  };
  await signIn();
  await page.waitForSelector("h1::-p-text(Tickets)");
  const photo = [...photographOf(120, 90)];
  const artwork = await page.evaluate(async (bytes) => {
    const sent = await fetch("/api/artworks?name=gull.jpg", {
      method: "POST",
      body: new Uint8Array(bytes),
      headers: { "Content-Type": "application/octet-stream" },
    });
    return (await sent.json()) as { id: string };
  }, photo);
  const json = (method: string, body: object) => ({
    method,
    body: JSON.stringify(body),
    headers: { "Content-Type": "application/json" },
  });
  const ticket = await at<TicketsView["tickets"][number]>(
    page,
    "/api/tickets",
    json("POST", { artworkId: artwork.id, piece: "Gull", customer: "Corran Café" }),
  );
  await page.goto(`${program.url}/tickets/${ticket.id}?stage=size`, { waitUntil: "domcontentloaded" });
  await page.waitForSelector("canvas[data-shown]");
  await settled(page);

  // Signed out at another browser, everywhere.
  const elsewhere = await browserOf();
  const there = await pageAt(elsewhere, "/");
  await there.waitForSelector("h1::-p-text(Sign in)");
  await fill(there, "Name", "Rowan Tate");
  await fill(there, "Password", PASSWORD);
  await press(there, "Sign in", "form button");
  await there.locator('nav button[aria-label^="Rowan Tate"]').click();
  await press(there, "Sign out everywhere", "[role=menuitem]");
  await there.waitForSelector("h1::-p-text(Sign in)");
  await elsewhere.close();

  await page.bringToFront();
  await type(page, "Width", "71");
  await page.waitForSelector("p::-p-text(You were signed out.)", { timeout: 20000 });
  await signIn();
  await page.waitForFunction(() => !document.body.textContent.includes("You were signed out."));
  await settled(page, 30000);
  const { route } = await at<RouteView>(page, `/api/routes/${ticket.routes[0].id}`);
  expect(route.stages[0]).toMatchObject({ stage: "size", widthMm: 71 });
  await context.close();
});

test("the floor sees a ticket and changes nothing of it", async () => {
  const owner = await pageAt(await browserOf(), "/people");
  await owner.waitForSelector("h1::-p-text(Sign in)");
  await fill(owner, "Name", "Ann Orrin");
  await fill(owner, "Password", PASSWORD);
  await press(owner, "Sign in", "form button");
  await owner.waitForSelector("h1::-p-text(People)");
  const { code } = await at<{ code: string }>(owner, "/api/people", {
    method: "POST",
    body: JSON.stringify({ name: "Bo Marsh", role: "floor" }),
    headers: { "Content-Type": "application/json" },
  });
  const page = await pageAt(await browserOf(), `/join/${code}`);
  await page.waitForSelector("h1::-p-text(Welcome, Bo Marsh)");
  await fill(page, "Password", PASSWORD);
  await fill(page, "Once more", PASSWORD);
  await press(page, "Come in");
  await page.waitForSelector("a[data-ticket]");
  expect(await page.$("button::-p-text(New ticket)")).toBeNull();
  await page.locator("a[data-ticket]").click();
  await page.waitForSelector("canvas[data-shown]");
  await settled(page);
  await press(page, "Size");
  await type(page, "Width", "55");
  await page.waitForSelector("div::-p-text(Your role is to look at tickets)");
  const { tickets } = await at<TicketsView>(page, "/api/tickets");
  const { route } = await at<RouteView>(page, `/api/routes/${tickets[0].routes[0].id}`);
  expect(route.stages[0]).toMatchObject({ widthMm: 71 });
});
