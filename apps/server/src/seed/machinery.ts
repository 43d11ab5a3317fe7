import { type TicketView } from "@hardline/contract";
import { writeRgbaPng } from "@hardline/core/format/png";
import { runWish } from "@hardline/core/machine/wish";
import { runToEnd } from "@hardline/core/maths/work";
import { newRgba } from "@hardline/core/raster/types";
import { type Plates } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { shippedFonts } from "@hardline/fonts";
import { Runner } from "@hardline/core/route/runner";
import { arrange } from "@hardline/core/sheet/arrange";
import { readSheetBody, type SheetBody } from "@hardline/core/sheet/sheetFile";
import { answered, ANSWERS_OF } from "@hardline/core/simulator/answer";
import { photographed } from "@hardline/core/simulator/photograph";
import { drawWedge } from "@hardline/core/wedge/layout";
import { wedgeRoute } from "@hardline/core/wedge/wedge";
import { CREW } from "@hardline/demo";
import { type INestApplicationContext } from "@nestjs/common";
import { ArtworksService } from "../artworks/artworks.service";
import { BatchesService } from "../batches/batches.service";
import { HouseRoutesService } from "../houseRoutes/houseRoutes.service";
import { MaterialsService } from "../house/materials.service";
import { WedgesService } from "../house/wedges.service";
import { RunsService } from "../runs/runs.service";
import { RunsStore } from "../runs/runs.store";
import { Pieces } from "../making/pieces";
import { ProgramMaker } from "../making/program.maker";
import { RendersService } from "../renders/renders.service";
import { RoutesService } from "../routes/routes.service";
import { SheetsService } from "../sheets/sheets.service";
import { askedOf } from "../tickets/asked";
import { TicketsService } from "../tickets/tickets.service";

/** Sheets, a run, a measured wedge and a batch: what the machines of the demo have to do. */
export async function seedMachinery(app: INestApplicationContext): Promise<void> {
  const { tickets } = await app.get(TicketsService).list(askedOf({ most: "500" }));
  const routeOf = (piece: string, route: string): { ticket: TicketView; routeId: string } => {
    const ticket = tickets.find((t) => t.piece === piece)!;
    return { ticket, routeId: ticket.routes.find((r) => r.name === route)!.id };
  };
  const tags = routeOf("Anchor key tags", "Tag, engraved and cut").routeId;
  const swing = routeOf("Sailing week swing tags", "Tag, printed and cut").routeId;
  await seedSheet(app, "Anchor key tags on acrylic", {
    ...{ stock: { widthMm: 560, heightMm: 380 }, machine: "bed-laser", rounds: 20 },
    pieces: [{ routeId: tags, count: 120 }],
  });
  await seedSheet(app, "Sailing week tags, printed then cut", {
    ...{
      stock: { widthMm: 450, heightMm: 640 },
      machine: "knife-cutter",
      marks: true,
      bleedMm: 1,
      rounds: 20,
    },
    pieces: [{ routeId: swing, count: 120 }],
  });
  const coaster = routeOf("Harbour coasters, set of six", "Slate, burns pale");
  await seedRun(app, coaster.routeId, `${coaster.ticket.number} ${coaster.ticket.piece}`, coaster.ticket.id);
  await seedWedge(app);
  await seedBatch(app);
}

async function seedSheet(app: INestApplicationContext, name: string, given: object): Promise<void> {
  const sheets = app.get(SheetsService);
  const body: SheetBody = readSheetBody(given);
  const { id, version, pieces } = await sheets.create({ name, body });
  const runner = new Runner({ fonts: shippedFonts });
  const revisions = Object.fromEntries(pieces.map((p) => [p.routeId, p.revision]));
  const made = [];
  for (const { routeId } of body.pieces)
    made.push(await app.get(Pieces).at(runner, routeId, revisions[routeId], { bleedMm: body.bleedMm }));
  const { reach } = await sheets.machineOf(body);
  const counts = body.pieces.map((p) => p.count);
  const { placings } = runToEnd(arrange(made, counts, body, { reach }));
  await sheets.save(id, { name, body, version, placings: [...placings], revisions });
  for (const { routeId } of body.pieces) await app.get(RendersService).piece(routeId, body.bleedMm);
}

/** A run that is planned and sent: the machine does it as soon as the program runs. */
async function seedRun(
  app: INestApplicationContext,
  routeId: string,
  name: string,
  ticketId: string,
): Promise<void> {
  const { revision } = await app.get(RoutesService).get(routeId);
  const row = await app.get(RunsStore).add({
    ...{ machineKey: "bed-laser", name, ticketId, routeId, revision },
    ...{ wish: JSON.stringify(runWish.parse({})), state: "preparing" },
  });
  const making = {
    runner: new Runner({ fonts: shippedFonts }),
    report: () => {},
    signal: new AbortController().signal,
  };
  await app.get(ProgramMaker).plan(row, making);
  await app.get(RunsService).queue(String(row.id));
}

/** The wedge of slate, burned on the simulated one and photographed. */
async function seedWedge(app: INestApplicationContext): Promise<void> {
  const material = await app.get(MaterialsService).get("slate");
  const gray = drawWedge(material.dotsPerInch);
  const colour = newRgba(gray.width, gray.height);
  gray.data.forEach((g, i) => colour.data.set([g, g, g, 255], 4 * i));
  const facts = { sha256: "0".repeat(64), width: gray.width, height: gray.height, vector: false };
  // The wedge's marks are the dark of its drawing, whichever way the material burns.
  const route = readRoute({ ...wedgeRoute({ ...material, answer: "burns dark" }), material: undefined });
  const results = await new Runner({ fonts: shippedFonts }).run(route, { facts, pixels: async () => colour });
  const { bits } = (results[results.length - 1].result as Plates).plates[0];
  const marks = runToEnd(answered(bits, material.dotsPerInch, ANSWERS_OF.slate));
  const hex = (text: string) => parseInt(text.slice(1), 16);
  const photo = runToEnd(
    photographed(marks, { bare: hex(material.bareColour), marked: hex(material.markColour) }, 1600, 4),
  );
  const { id } = await app
    .get(ArtworksService)
    .addBytes(runToEnd(writeRgbaPng(photo, 72)), "slate-wedge-on-the-bench.png");
  await app.get(WedgesService).fromPhoto("slate", id);
}

async function seedBatch(app: INestApplicationContext): Promise<void> {
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Name on pale wood" },
    stages: [
      { stage: "size", heightMm: 12, dotsPerInch: 254 },
      { stage: "trace", smallestMm2: 0.02, toleranceMm: 0.02 },
    ],
  });
  const house = await app.get(HouseRoutesService).create({ name: "Name on pale wood", route });
  const items = CREW.map((name) => ({ name, text: name }));
  await app.get(BatchesService).create({ name: "Crew names, regatta", houseRouteId: house.id, items });
}
