import { findingsOf } from "@hardline/core/inspect/check";
import { type Unit } from "@hardline/core/maths/lengthWords";
import { Preview } from "@hardline/core/result/preview";
import { deliver } from "@hardline/core/route/deliver";
import { planOf } from "@hardline/core/route/plan";
import { type DeliveredFile } from "@hardline/core/stage/stage";
import { stageById } from "@hardline/core/stage/stages";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { BlobStore } from "../blobs/blob.store";
import { type StoredFile } from "../database/schema";
import { RoutesService } from "../routes/routes.service";
import { TicketsService } from "../tickets/tickets.service";
import { fileStem } from "../renders/fileNames";
import { sittingOf, type Sitting } from "./sitting";
import { PlatePictures } from "./platePictures";
import { type Made, type RenderRow } from "../renders/renders.service";
import { type Maker, type Making } from "./maker";

/** The files of one revision of a route, with their job sheet. */
@Injectable()
export class HandOverMaker implements Maker {
  constructor(
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async make(render: RenderRow, { runner, report, signal }: Making): Promise<Made> {
    const [routeId, revision] = [String(render.routeId), render.revision!];
    const route = await this.routes.atRevision(routeId, revision);
    const ticket = await this.tickets.get((await this.routes.get(routeId)).ticketId);
    const source = await this.artworks.source(ticket.artwork.id);
    const stem = fileStem(ticket.number, ticket.piece, route.name, routeId, revision);
    const kept: StoredFile[] = [];
    const keep = async ({ name, mediaType, bytes }: DeliveredFile): Promise<void> => {
      const sha256 = await this.blobs.put(bytes, mediaType);
      kept.push({ name: `${stem}-${name}`, mediaType, bytes: bytes.length, sha256 });
    };
    // With the fonts and the writer of pages that it needs, only once there is one to draw.
    const { drawJobSheet, SHEET_PICTURE } = await import("./jobSheet");
    const preview = new Preview(SHEET_PICTURE);
    const plates = new PlatePictures();
    let sits: Sitting | null = null;
    const { checks, fingerprint, readings } = await deliver(runner, route, source, {
      pause: nextTurn,
      signal,
      progress: (share, stage) => report(share * 0.95, stageById(stage).title.toLowerCase()),
      file: keep,
      job: `${ticket.number} ${ticket.piece}, ${route.name}`,
      seen: (result) => {
        preview.add(result);
        plates.add(result);
        if (result.kind === "mockUp") sits = sittingOf(result);
      },
    });
    report(0.95, "job sheet");
    const { finish } = planOf(route, source.facts).place;
    const picture = preview.picture;
    const sheet = await drawJobSheet({
      ...{ ticket, route, revision, finish, picture, checks },
      unit: (render.wish as { unit?: Unit } | null)?.unit,
      files: kept,
      plates: plates.with(readings),
      sits,
    });
    await keep({ name: "job-sheet.pdf", mediaType: "application/pdf", bytes: sheet });
    await this.routes.find(routeId, { revision, ...findingsOf(checks) });
    return { files: kept, dotsSha256: fingerprint };
  }
}
