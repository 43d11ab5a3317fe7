import { type RouteView } from "@hardline/contract";
import { unzipSync } from "fflate";
import sharp from "sharp";
import { type Browser, type Page } from "puppeteer-core";
import { openPage, press, settled } from "./browser";
import { addTicket, ask } from "./harness";

export const AS_IT_IS = { stage: "size", resample: "none", dotsPerInch: 254 };

/** A ticket of its own with Clear open on the bench. */
export async function openClear(
  browser: Browser,
  url: string,
  bytes: Buffer,
  name: string,
  stages: object[] = [AS_IT_IS, { stage: "clear" }],
) {
  const { ticket, route } = await addTicket(url, bytes, name, stages);
  const page = await openPage(browser, `${url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  await press(page, "Clear");
  await page.waitForSelector("[data-hand]");
  return { page, routeId: route.id };
}

/** The operations of Clear as the server keeps them. */
export const ops = async (url: string, routeId: string): Promise<Record<string, unknown>[]> => {
  const { route } = await ask<RouteView>(`${url}/api/routes/${routeId}`);
  return route.stages.find((s) => s.stage === "clear")!.ops as Record<string, unknown>[];
};

/** Where a position of the picture is on the screen. */
export async function onScreen(
  page: Page,
  u: number,
  v: number,
  width: number,
  height: number,
): Promise<[number, number]> {
  const box = (await (await page.$("canvas[data-shown]"))!.boundingBox())!;
  const zoom = Math.min((box.width - 72) / width, (box.height - 36 - 52 - 24) / height);
  const middle = (box.height - 52 + 24) / 2;
  return [box.x + box.width / 2 + (u - 0.5) * width * zoom, box.y + middle + (v - 0.5) * height * zoom];
}

/** The cleared picture that is handed over. */
export async function handedOver(page: Page) {
  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 60000 });
  const url = await page.$eval("a[href$='/zip']", (a) => (a as HTMLAnchorElement).href);
  const zip = unzipSync(new Uint8Array(await (await fetch(url)).arrayBuffer()));
  const name = Object.keys(zip).find((n) => n.endsWith("-cleared.png"))!;
  const { data, info } = await sharp(Buffer.from(zip[name]))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}
