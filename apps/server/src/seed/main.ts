import "reflect-metadata";
import { ARTWORKS, TICKETS, type ArtworkName, type DemoTicket } from "@hardline/demo";
import { writeRgbaPng } from "@hardline/core/format/png";
import { findingsOf } from "@hardline/core/inspect/check";
import { routeFor } from "@hardline/core/material/material";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { runToEnd } from "@hardline/core/maths/work";
import { Preview } from "@hardline/core/result/preview";
import { readRoute, type Route } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { NestFactory } from "@nestjs/core";
import { mkdir, readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { AppModule } from "../app.module";
import { ArtworksService } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { nestLog } from "../log/log";
import { RendersService } from "../renders/renders.service";
import { RoutesService } from "../routes/routes.service";
import { TicketsService } from "../tickets/tickets.service";
import { seedMachinery } from "./machinery";

const DRAWN = join(__dirname, "../../../../.local/demo");
const THUMBNAIL = 320;

/** Fills an empty database with the demo scenario; a database with tickets is left as it is. */
async function main(): Promise<void> {
  process.argv.push("--role=seed"); // whoever seeds takes no renders, and sends nothing
  const app = await NestFactory.createApplicationContext(AppModule, { logger: nestLog });
  const tickets = await app.get(Database).selectFrom("tickets").select("id").limit(1).execute();
  if (tickets.length === 0) {
    process.stderr.write("drawing the demo artwork, which takes a minute the first time ...\n");
    const runner = new Runner();
    for (const ticket of TICKETS) await addTicket(app, runner, ticket);
    await seedMachinery(app);
  }
  await app.close();
}

type App = Awaited<ReturnType<typeof NestFactory.createApplicationContext>>;

async function addTicket(app: App, runner: Runner, demo: DemoTicket): Promise<void> {
  const { artwork, routes, fate, dueIn, piece, customer, pieces, output, material, materialColour, note } =
    demo;
  const { id: artworkId } = await app.get(ArtworksService).addBytes(await drawn(artwork), artwork);
  const tickets = app.get(TicketsService);
  const due = new Date(Date.now() + dueIn * 86400000).toISOString().slice(0, 10);
  const ticket = await tickets.create({
    artworkId,
    piece,
    customer,
    due,
    pieces,
    output,
    material,
    materialColour,
    note,
  });
  const [first] = ticket.routes;
  for (const [i, { name, stages, material: key }] of routes.entries()) {
    const given = readRoute({ format: "hard-line-route", version: 1, name, stages });
    const known = USUAL_MATERIALS.find((m) => m.key === key);
    const route = known ? routeFor(given, known) : given;
    const { id } =
      i === 0
        ? await app.get(RoutesService).save(first.id, 1, route)
        : await app.get(RoutesService).create(ticket.id, route);
    await look(app, runner, artworkId, id, route);
    if (fate === "handed over") await app.get(RendersService).request(id);
  }
  if (fate === "archived") await tickets.archive(ticket.id, true);
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
