import { type Page } from "puppeteer-core";
import { settled } from "./browser";

/** What is taken hold of, and how far the hand goes from there, in pixels of the page. */
export interface Grip {
  readonly x: number;
  readonly y: number;
  readonly across: number;
  readonly down: number;
}

/**
 * Drags: first one move at a time, each until its picture is drawn, then without waiting, as a hand does.
 * @returns the waits in ms, tasks of the main thread over 50 ms, and pictures drawn in the drag of two seconds
 */
export async function follow(
  page: Page,
  { x, y, across, down }: Grip,
  moves: number,
): Promise<{ waits: number[]; longTasks: number[]; frames: number }> {
  await page.evaluate(() => {
    const seen = window as unknown as { waits: number[]; longTasks: number[]; movedAt: number };
    Object.assign(seen, { waits: [], longTasks: [], movedAt: 0 });
    const canvas = document.querySelector("canvas[data-shown]")!;
    new MutationObserver(() => seen.movedAt && seen.waits.push(performance.now() - seen.movedAt)).observe(
      canvas,
      { attributeFilter: ["data-shown"] },
    );
    new PerformanceObserver((list) =>
      list.getEntries().forEach((e) => seen.longTasks.push(e.duration)),
    ).observe({ entryTypes: ["longtask"] });
    window.addEventListener("pointermove", () => (seen.movedAt = performance.now()), true);
  });
  await page.mouse.move(x, y);
  await page.mouse.down();
  const drawn = () => page.evaluate(() => (window as unknown as { waits: number[] }).waits.length);
  for (let i = 0, before = await drawn(); i < moves; i++) {
    // A slider has steps: each move goes far enough for another.
    const swing = down === 0 ? (i % 2 ? 1 : -1) * (0.3 + 0.14 * (i % 6)) : 0.86 * Math.sin(i / 3);
    await page.mouse.move(x + across * swing, y + 0.83 * down * Math.cos(i / 4));
    await page.waitForFunction(
      (n) => (window as unknown as { waits: number[] }).waits.length > n,
      { polling: "mutation", timeout: 30000 },
      before,
    );
    before = await drawn();
  }
  const waits = await page.evaluate(() => (window as unknown as { waits: number[] }).waits.slice());
  // now without waiting, as a hand does
  await page.evaluate(() => void ((window as unknown as { longTasks: number[] }).longTasks.length = 0));
  const before = await drawn();
  for (let i = 0; i < 120; i++) {
    await page.mouse.move(x + across * Math.sin(i / 9), y + down * Math.cos(i / 11));
    await new Promise((r) => setTimeout(r, 16));
  }
  const frames = (await drawn()) - before;
  await page.mouse.up();
  const longTasks = await page.evaluate(() =>
    (window as unknown as { longTasks: number[] }).longTasks.slice(),
  );
  return { waits, longTasks, frames };
}

export const at = (values: number[], share: number): string => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length
    ? sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))].toFixed(0)
    : "-";
};

/** Milliseconds from when the hand rests until the exact picture is there. */
export async function exactAfter(page: Page): Promise<number> {
  const rested = performance.now();
  await page.waitForFunction(
    () => !document.querySelector<HTMLElement>("canvas[data-shown]")!.dataset.shown!.endsWith("-"),
    { polling: 10, timeout: 120000 },
  );
  return performance.now() - rested;
}

/** Drags a slider by its label, and waits until everything that follows from it is there. */
export async function dragSlider(page: Page, label: string) {
  const thumb = (await page.waitForSelector(`[role="slider"][aria-label="${label}"]`))!;
  await thumb.scrollIntoView();
  const box = (await thumb.boundingBox())!;
  const grip = { x: box.x + box.width / 2, y: box.y + box.height / 2, across: 24, down: 0 };
  const followed = await follow(page, grip, 24);
  const exact = await exactAfter(page);
  await settled(page, 180000);
  return { ...followed, exact };
}
