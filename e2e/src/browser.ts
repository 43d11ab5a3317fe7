import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer, { type Browser, type ElementHandle, type Page } from "puppeteer-core";

const FLAGS = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--force-color-profile=srgb",
];

/** Debian's Chromium with a fresh profile; `close` removes the profile again. */
export async function openBrowser(): Promise<{ browser: Browser; close: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), "hard-line-browser-"));
  const browser = await puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    userDataDir: profile,
    args: FLAGS,
    protocolTimeout: 240000,
  });
  return {
    browser,
    close: async () => {
      await browser.close();
      rmSync(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
    },
  };
}

export async function openPage(browser: Browser, url: string, width = 1280, height = 800): Promise<Page> {
  const page = await browser.newPage();
  // Looked at ten times a second: with every frame, a page that waits would be laid out all the time.
  const wait = page.waitForFunction.bind(page);
  page.waitForFunction = (what, options, ...about) => wait(what, { polling: 100, ...options }, ...about);
  await page.setViewport({ width, height });
  await page.goto(url, { waitUntil: "domcontentloaded" });
  return page;
}

/** Clicks what a person would find by its words. */
export async function press(page: Page, words: string, kind = "button"): Promise<void> {
  await page.locator(`${kind}::-p-text(${words})`).setTimeout(60000).click();
}

/** Waits until the checks of what is set now are there. */
export async function settled(page: Page, timeout = 60000): Promise<void> {
  await page.waitForFunction(
    () => {
      const docket = document.querySelector('[aria-label="Docket"]')?.textContent ?? "";
      return /saved, r\d/.test(docket) && !docket.includes("checking");
    },
    { timeout, polling: 100 },
  );
}

/** Writes over what a field holds. */
export async function type(page: Page, label: string, value: string): Promise<void> {
  const field = (await page.waitForSelector(`[aria-label="${label}"]`))!;
  await field.click();
  // A number's field puts the caret right a moment after it was entered, faster than any hand selects.
  await page.evaluate(() => new Promise((rested) => setTimeout(rested, 60)));
  await page.keyboard.down("Control");
  await page.keyboard.press("KeyA");
  await page.keyboard.up("Control");
  await page.keyboard.type(value);
  await page.keyboard.press("Tab");
}

/** Writes into the field that has a label, over what it holds. */
export async function fill(page: Page, label: string, text: string): Promise<void> {
  const field = (await page.waitForFunction(
    (words) =>
      [...document.querySelectorAll("label")].find(
        (l) => [...l.childNodes].some((n) => n.textContent?.trim() === words) && l.control,
      )?.control ?? null,
    {},
    label,
  )) as ElementHandle<Element>;
  await field.click({ count: 3 });
  await page.keyboard.type(text);
}
