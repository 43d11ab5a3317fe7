import sharp from "sharp";
import { type Browser } from "puppeteer-core";
import { openBrowser, openPage, settled } from "./browser";
import { addTicket, newDatabase, photographOf, startProgram } from "./harness";

/*
 * How soon a ticket is there: from the click on its card to the first picture, to the exact one and to the checks, and what
 * was sent to the page until the first. A profile of its own for each, in which the board has rested.
 */
interface Job {
  readonly name: string;
  readonly file: () => Promise<Buffer>;
  readonly stages: readonly object[];
  /** Milliseconds to the first picture. */
  readonly asked: number;
}

const TONE = {
  stage: "tone",
  curve: [
    [0, 0],
    [0.5, 0.58],
    [1, 0.98],
  ],
};
const ink = (name: string, colour: string) => ({ name, colour });
const SIX = [
  ink("white", "#ffffff"),
  ink("sand", "#d9a066"),
  ink("sea", "#24506e"),
  ink("leaf", "#5a7d3a"),
  ink("rust", "#a5482a"),
  ink("night", "#101418"),
];

const JOBS: Record<string, Job> = {
  photograph: {
    name: "photograph of 10 MP, dots, finish of 4 MP",
    file: () => photograph(3840, 2627),
    stages: [
      { stage: "size", widthMm: 245, dotsPerInch: 254 },
      TONE,
      { stage: "blackWhite", kernel: "jarvis-judice-ninke" },
    ],
    asked: 300,
  },
  films: {
    name: "photograph of 10 MP, films of six inks",
    file: () => photograph(3840, 2627),
    stages: [
      { stage: "size", widthMm: 245, dotsPerInch: 254 },
      { stage: "films", separate: "tonal", garment: "#1b2030", inks: SIX },
    ],
    asked: 600,
  },
  largest: {
    name: "200 MP, dots, finish of 128 MP",
    file: () => photograph(16400, 12192),
    stages: [
      { stage: "size", widthMm: 19 * 25.4, dotsPerInch: 720 },
      TONE,
      { stage: "blackWhite", kernel: "jarvis-judice-ninke" },
    ],
    asked: 1000,
  },
};

/** A rendered scene, enlarged, with a grain of its own as a camera has it. */
async function photograph(width: number, height: number): Promise<Buffer> {
  const [w, h] = [2400, 1642];
  const noise = { type: "gaussian" as const, mean: 128, sigma: 8 };
  const grain = sharp({ create: { width: w, height: h, channels: 3, background: "#808080", noise } });
  return sharp(photographOf(w, h))
    .composite([{ input: await grain.png().toBuffer(), blend: "soft-light" }])
    .toBuffer()
    .then((scene) => sharp(scene).resize(width, height, { kernel: "cubic", fit: "fill" }))
    .then((large) => large.jpeg({ quality: 90 }).toBuffer());
}

/** A hand points at a card for so long before it presses, and presses for so long, in milliseconds. */
const [POINTS_MS, PRESSES_MS] = [200, 80];

interface Times {
  readonly standIn: number;
  readonly first: number;
  readonly exact: number;
  readonly checks: number;
  readonly bytes: number;
}

async function opened(browser: Browser, url: string, ticket: string): Promise<Times> {
  const page = await openPage(browser, `${url}/`);
  const card = await page.waitForSelector(`a[href^="/tickets/${ticket}"]`, { timeout: 60000 });
  await new Promise((rested) => setTimeout(rested, 12000)); // the board loads the bench while it rests
  await page.evaluate(() => {
    const times = { clicked: 0, standIn: 0, first: 0, exact: 0 };
    Object.assign(window, { times });
    window.addEventListener("click", () => (times.clicked ||= performance.now()), true);
    const look = (): void => {
      if (document.querySelector("[data-stand-in]")) times.standIn ||= performance.now();
      const shown = document.querySelector<HTMLElement>("canvas[data-shown]")?.dataset.shown;
      if (shown) times.first ||= performance.now();
      if (shown && !shown.endsWith("-")) times.exact ||= performance.now();
    };
    new MutationObserver(look).observe(document, { subtree: true, childList: true, attributes: true });
  });
  const before = await received(browser);
  await card!.hover();
  await new Promise((pressed) => setTimeout(pressed, POINTS_MS));
  await card!.click({ delay: PRESSES_MS });
  await page.waitForSelector("canvas[data-shown]", { timeout: 120000 });
  const bytes = (await received(browser)) - before;
  const times = () =>
    page.evaluate(
      () => (window as unknown as { times: Record<"clicked" | "standIn" | "first" | "exact", number> }).times,
    );
  await page.waitForFunction(() => (window as unknown as { times: { exact: number } }).times.exact > 0, {
    timeout: 300000,
  });
  const { clicked, standIn, first, exact } = await times();
  await settled(page, 600000);
  const checks = await page.evaluate(() => performance.now());
  await page.close();
  return {
    standIn: standIn && standIn - clicked,
    first: first - clicked,
    exact: exact - clicked,
    checks: checks - clicked,
    bytes,
  };
}

/** Bytes that the pages and their workers were sent so far. */
async function received(browser: Browser): Promise<number> {
  let sum = 0;
  for (const page of await browser.pages()) {
    const count = () =>
      performance
        .getEntriesByType("resource")
        .reduce((all, e) => all + (e as PerformanceResourceTiming).transferSize, 0);
    sum += await page.evaluate(count);
    for (const worker of page.workers()) sum += await worker.evaluate(count).catch(() => 0);
  }
  return sum;
}

async function main(): Promise<void> {
  const chosen = process.argv[2]?.split(",") ?? ["photograph", "films"];
  const program = await startProgram(await newDatabase());
  console.log(
    "| opened from the board, ms after the click | last picture stands in | first picture (asked) | exact | checks | sent until the first, MB (asked 2) |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
  for (const name of chosen) {
    const { name: title, file, stages, asked } = JOBS[name];
    const { ticket } = await addTicket(program.url, await file(), "scene.jpg", [...stages]);
    for (let run = 0; run < 3; run++) {
      const { browser, close } = await openBrowser();
      const { standIn, first, exact, checks, bytes } = await opened(browser, program.url, ticket.id);
      console.log(
        `| ${title}, run ${run + 1} | ${standIn ? standIn.toFixed(0) : "none"} | ${first.toFixed(0)} (${asked}) | ${exact.toFixed(0)} | ${checks.toFixed(0)} | ${(bytes / 1e6).toFixed(2)} |`,
      );
      await close();
    }
  }
  await program.stop();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
