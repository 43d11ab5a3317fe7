import { type Route } from "@hardline/core/route/route";
import { type RunOptions, type Runner } from "@hardline/core/route/runner";
import { type ArtworkSource } from "@hardline/core/route/source";
import { sheetPiece, type SheetPiece } from "@hardline/core/sheet/piece";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { RoutesService } from "../routes/routes.service";
import { TicketsService } from "../tickets/tickets.service";

/** Revisions of routes with the artwork of their ticket, and as pieces for sheets. */
@Injectable()
export class Pieces {
  constructor(
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
  ) {}

  async source(routeId: string, revision: number): Promise<{ route: Route; source: ArtworkSource }> {
    const route = await this.routes.atRevision(routeId, revision);
    const ticket = await this.tickets.get((await this.routes.get(routeId)).ticketId);
    return { route, source: await this.artworks.source(ticket.artwork.id) };
  }

  async at(
    runner: Runner,
    routeId: string,
    revision: number,
    options: RunOptions & { readonly bleedMm: number },
  ): Promise<SheetPiece> {
    const { route, source } = await this.source(routeId, revision);
    return sheetPiece(runner, route, source, { ...options, pause: nextTurn });
  }
}
