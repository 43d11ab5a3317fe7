import "reflect-metadata";
import { ARTWORKS, TICKETS, type ArtworkName, type DemoTicket } from "@hardline/demo";
import { writeRgbaPng } from "@hardline/core/format/png";
import { findingsOf } from "@hardline/core/inspect/check";
import { routeFor } from "@hardline/core/material/material";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { runToEnd } from "@hardline/core/maths/work";
import { Preview } from "@hardline/core/result/preview";
import { readRoute, type Route } from "@hardline/core/route/route";
import { shippedFonts } from "@hardline/fonts";
import { Runner } from "@hardline/core/route/runner";
import { NestFactory } from "@nestjs/core";
import { existsSync } from "node:fs";
import { mkdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { AppModule } from "../app.module";
import { ArtworksService } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { nestLog } from "../log/log";
import { type Doer } from "../database/schema";
import { actingAs } from "../people/acting";
import { PeopleService } from "../people/people.service";
import { RendersService } from "../renders/renders.service";
import { RoutesService } from "../routes/routes.service";
import { TicketsService } from "../tickets/tickets.service";
import { seedMachinery } from "./machinery";

const DRAWN = join(__dirname, "../../../../.local/demo");
const THUMBNAIL = 320;

/** Lies there while the demo is being drawn: where that was ended, the tickets that are missing are added at the next start. */
const UNFINISHED = join(DRAWN, "unfinished");

/**
 * Fills an empty database with the demo scenario, while the server runs: first every ticket, then what is found on its
 * routes. A database with tickets of its own is left as it is.
 */
async function main(): Promise<void> {
  process.argv.push("--role=seed"); // whoever seeds takes no renders, and sends nothing
  const app = await NestFactory.createApplicationContext(AppModule, { logger: nestLog });
  const known = await app.get(Database).selectFrom("tickets").select("piece").execute();
  if (known.length === 0 || existsSync(UNFINISHED)) {
    process.stderr.write("drawing the demo's tickets, which takes two minutes; they appear one by one\n");
    await mkdir(DRAWN, { recursive: true });
    await writeFile(UNFINISHED, "");
    const pieces = new Set(known.map((t) => t.piece));
    const added = [];
    const hands = await handsOf(app);
    for (const [k, demo] of TICKETS.entries())
      if (!pieces.has(demo.piece))
        added.push({ demo, ...(await actingAs(hands[k % hands.length], () => addTicket(app, demo))) });
    const runner = new Runner({ fonts: shippedFonts });
    for (const { demo, artworkId, ticketId, routes } of added) {
      for (const { id, route } of routes) {
        await look(app, runner, artworkId, id, route);
        if (demo.fate === "handed over") await app.get(RendersService).request(id);
      }
      if (demo.fate === "archived") await app.get(TicketsService).archive(ticketId, true);
    }
    await seedMachinery(app);
    await rm(UNFINISHED);
  }
  await app.close();
}

/** Who made the demo's tickets: its owner and its operator, turn about. */
async function handsOf(app: App): Promise<Doer[]> {
  const people = (await app.get(PeopleService).list()).filter((p) => p.role !== "floor");
  return people.length > 0
    ? people.map(({ id }) => ({ personId: id, tokenId: null }))
    : [{ personId: null, tokenId: null }];
}

type App = Awaited<ReturnType<typeof NestFactory.createApplicationContext>>;

interface Added {
  readonly artworkId: string;
  readonly ticketId: string;
  readonly routes: readonly { readonly id: string; readonly route: Route }[];
}

async function addTicket(app: App, demo: DemoTicket): Promise<Added> {
  const { artwork, routes, fate: _fate, dueIn, ...fields } = demo;
  const { id: artworkId } = await app.get(ArtworksService).addBytes(await drawn(artwork), artwork);
  const due = new Date(Date.now() + dueIn * 86400000).toISOString().slice(0, 10);
  const ticket = await app.get(TicketsService).create({ artworkId, due, ...fields });
  const added: { id: string; route: Route }[] = [];
  for (const [i, { name, stages, colourways, material: key }] of routes.entries()) {
    const given = readRoute({ format: "hard-line-route", version: 1, name, colourways, stages });
    const known = USUAL_MATERIALS.find((m) => m.key === key);
    const route = known ? routeFor(given, known) : given;
    const { id } =
      i === 0
        ? await app.get(RoutesService).save(ticket.routes[0].id, 1, route)
        : await app.get(RoutesService).create(ticket.id, route);
    added.push({ id, route });
  }
  return { artworkId, ticketId: ticket.id, routes: added };
}

/** Runs the route and notes what was found, as the bench does when an operator opens it. */
async function look(
  app: App,
  runner: Runner,
  artworkId: string,
  routeId: string,
  route: Route,
): Promise<void> {
  const source = await app.get(ArtworksService).source(artworkId);
  const preview = new Preview({ width: THUMBNAIL, height: THUMBNAIL });
  for (const { result } of await runner.run(route, source)) preview.add(result);
  const checks = (await runner.inspect(route, source)).flatMap((i) => i.checks);
  const { revision } = await app.get(RoutesService).get(routeId);
  const png = preview.picture && runToEnd(writeRgbaPng(preview.picture, 72));
  await app.get(RoutesService).find(routeId, {
    revision,
    ...findingsOf(checks),
    thumbnail: png ? Buffer.from(png).toString("base64") : undefined,
  });
}

/** An artwork of the demo, drawn once and then kept beside the database. */
async function drawn(name: ArtworkName): Promise<Buffer> {
  const path = join(DRAWN, name);
  const known = await readFile(path).catch(() => null);
  if (known) return known;
  const bytes = await ARTWORKS[name]();
  await mkdir(DRAWN, { recursive: true });
  await writeFile(`${path}.part`, bytes);
  await rename(`${path}.part`, path);
  return bytes;
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
