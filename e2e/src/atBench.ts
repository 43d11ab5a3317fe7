import { type RenderView, type RouteView } from "@hardline/contract";
import { settingsOf } from "@hardline/core/route/route";
import { type SettingsOf, type StageId } from "@hardline/core/stage/stages";
import { type Browser, type Page } from "puppeteer-core";
import { openPage, press, settled } from "./browser";
import { addTicket, ask, type Program } from "./harness";

/** A ticket of its own on the bench, shown and checked. */
export async function benchOf(
  program: Program,
  browser: Browser,
  art: Buffer,
  name: string,
  stages: readonly object[],
): Promise<{ page: Page; id: string }> {
  const { ticket, route } = await addTicket(program.url, art, name, stages);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  return { page, id: route.id };
}

/** Settings of a stage as they are saved, once they are as they should be. */
export async function savedAt<Id extends StageId>(
  program: Program,
  id: string,
  stage: Id,
  is: (settings: SettingsOf<Id>) => boolean,
): Promise<SettingsOf<Id>> {
  for (let k = 0; ; k++) {
    const { route } = await ask<RouteView>(`${program.url}/api/routes/${id}`);
    const settings = settingsOf(route, stage);
    if ((settings && is(settings)) || k === 100) return settings!;
    await new Promise((r) => setTimeout(r, 100));
  }
}

/** The files of a route as a person hands them over, by their own names, and the fingerprint of what was sent. */
export async function handedOver(
  program: Program,
  page: Page,
  id: string,
): Promise<{ files: Record<string, Buffer>; dots: string | null }> {
  await settled(page);
  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 120000 });
  const [render] = await ask<RenderView[]>(`${program.url}/api/routes/${id}/renders`);
  const files = await Promise.all(
    render.files.map(async (f) => [
      f.name.replace(/^.*-\d+r\d+-/, ""),
      Buffer.from(await (await fetch(`${program.url}${f.url}`)).arrayBuffer()),
    ]),
  );
  return { files: Object.fromEntries(files), dots: render.dotsSha256 };
}
