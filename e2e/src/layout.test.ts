import { type Browser, type Page } from "puppeteer-core";
import { openBrowser, openPage, press, settled } from "./browser";
import { addTicket, newDatabase, photographOf, startProgram, type Program } from "./harness";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let bench: string;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
  const { ticket } = await addTicket(
    program.url,
    photographOf(300, 200),
    "a-picture-with-a-rather-long-name-as-customers-send-them.jpg",
    [
      { stage: "size", widthMm: 40 },
      { stage: "tone", sharpen: { amount: 0.4 } },
      {
        stage: "blackWhite",
        kernel: "jarvis-judice-ninke",
        strength: 0.92,
        serpentine: true,
        material: "burns-pale",
      },
    ],
    {
      piece: "Harbour coasters in slate, set of six with a stand",
      customer: "Skerry Light Tea Rooms and Bakery",
      due: "2026-12-04",
    },
  );
  bench = `${program.url}/tickets/${ticket.id}`;
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

/** Parts of the page that stick out of the window or of what holds them, and controls whose words are cut off. */
const faults = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = [];
    const name = (e: Element) =>
      `${e.tagName} ${(e.getAttribute("aria-label") ?? e.textContent ?? "").slice(0, 30)}`;
    if (document.documentElement.scrollWidth > innerWidth) found.push("the page is wider than the window");
    for (const e of document.querySelectorAll<HTMLElement>("button, h1, h2, dt, dd, [class*=label]")) {
      if (e.offsetParent === null || e.closest("canvas")) continue;
      const box = e.getBoundingClientRect();
      if (box.right > innerWidth + 1 || box.left < -1) found.push(`outside: ${name(e)}`);
      const cutOnPurpose = getComputedStyle(e).textOverflow === "ellipsis";
      if (e.scrollWidth > e.clientWidth + 2 && e.clientWidth > 0 && !cutOnPurpose)
        found.push(`cut: ${name(e)}`);
    }
    return found;
  });

const unnamed = (page: Page) =>
  page.evaluate(() =>
    Array.from(
      document.querySelectorAll<HTMLElement>("button, input, select, a, [role=slider], [role=application]"),
    )
      .filter((e) => e.offsetParent !== null)
      .filter((e) => {
        const input = e as HTMLInputElement;
        const label = e.getAttribute("aria-label") ?? e.getAttribute("title") ?? e.textContent?.trim();
        return !label && !(input.labels && input.labels.length > 0) && !e.getAttribute("aria-labelledby");
      })
      .map((e) => e.outerHTML.slice(0, 120)),
  );

test.each([
  [1280, 800],
  [1920, 1080],
])("at %d x %d nothing sticks out, no word is cut, every control has a name", async (width, height) => {
  const page = await openPage(browser, program.url, width, height);
  await page.waitForSelector("a[data-ticket]");
  expect(await faults(page)).toEqual([]);
  expect(await unnamed(page)).toEqual([]);
  await page.goto(bench);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  for (const stage of ["Artwork", "Size", "Tone", "Black & white", "Hand over"]) {
    await press(page, stage);
    await new Promise((r) => setTimeout(r, 300));
    expect([stage, await faults(page)]).toEqual([stage, []]);
    expect([stage, await unnamed(page)]).toEqual([stage, []]);
  }
  await page.close();
});

test("the stages are walked and set by keyboard alone", async () => {
  const page = await openPage(browser, bench);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  const open = () => page.$eval('[aria-expanded="true"] b', (e) => e.textContent);
  expect(await open()).toBe("Black & white");
  const withAlt = async (key: "ArrowUp" | "ArrowDown") => {
    await page.keyboard.down("Alt");
    await page.keyboard.press(key);
    await page.keyboard.up("Alt");
  };
  await withAlt("ArrowUp");
  expect(await open()).toBe("Tone");
  expect(new URL(page.url()).searchParams.get("stage")).toBe("tone");
  await page.reload();
  await page.waitForSelector('[aria-expanded="true"] b');
  expect(await open()).toBe("Tone");
  await settled(page);
  await withAlt("ArrowDown");
  expect(await open()).toBe("Black & white");
  await page.focus('[role=slider][aria-label="Strength"]');
  await page.keyboard.press("ArrowLeft");
  await page.waitForFunction(
    () => (document.querySelector('[aria-label="Strength, typed"]') as HTMLInputElement).value === "91 %",
  );
  await settled(page);
  const outlined = await page.evaluate(() => {
    (document.querySelector('[aria-label="Docket"] button[aria-expanded]') as HTMLElement).focus();
    return (
      document.activeElement!.matches(":focus-visible") &&
      getComputedStyle(document.activeElement!).outlineStyle
    );
  });
  expect(outlined).toBe("solid");
  await page.close();
});

test("an address that is no ticket says so, one that is no page too, and a route of another ticket is not shown as its own", async () => {
  const page = await openPage(browser, `${program.url}/tickets/999999`);
  await page.waitForSelector("::-p-text(There is no ticket 999999.)", { timeout: 20000 });
  await page.goto(`${program.url}/somewhere/else`);
  await page.waitForSelector("h1::-p-text(There is nothing at this address)");
  await page.locator("a::-p-text(To the tickets)").click();
  await page.waitForSelector("h1::-p-text(Tickets)");
  const photo = photographOf(60, 40);
  const other = await addTicket(program.url, photo, "other.jpg", [{ stage: "size", widthMm: 20 }]);
  await page.goto(`${bench}/routes/${other.route.id}`);
  await page.waitForSelector("h1::-p-text(has no such route)");
  await page.close();
});
