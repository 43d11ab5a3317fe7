import {
  dotsFingerprint,
  filesOf,
  Runner,
  stageById,
  type DeliveredFile,
  type StageId,
  type StageInspection,
} from "@hardline/core";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { BlobStore } from "../blobs/blob.store";
import { type StoredFile } from "../database/schema";
import { log } from "../http/log";
import { RoutesService } from "../routes/routes.service";
import { Settings } from "../settings";
import { TicketsService } from "../tickets/tickets.service";
import { fileStem } from "./fileNames";
import { drawJobSheet } from "./jobSheet";
import { RenderQueue } from "./queue";
import { RendersService, type RenderRow } from "./renders.service";

const BEAT_MS = 500;

/** Takes renders from the queue, one at a time, and makes their files. */
@Injectable()
export class RenderWorker implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly runner = new Runner({
    pause: nextTurn,
    clock: () => performance.now(),
    cacheBytes: 256 << 20,
  });
  private sweep?: NodeJS.Timeout;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const { role, leaseSeconds } = this.settings;
    const lookAround = () =>
      this.renders
        .takeBackLost(leaseSeconds)
        .catch((error) => log.warn({ err: error }, "looking for lost renders"));
    await lookAround();
    this.sweep = setInterval(lookAround, leaseSeconds * 500);
    if (role !== "server") await this.queue.work((id) => this.take(id));
  }

  onApplicationShutdown(): void {
    clearInterval(this.sweep);
  }

  private async take(id: string): Promise<void> {
    const render = await this.renders.claim(id);
    if (!render) return; // another worker has it, or it is done
    const state = { progress: 0, doing: "reading the artwork" };
    const beat = setInterval(() => {
      this.renders
        .beat(id, state.progress, state.doing)
        .catch((error) => log.warn({ err: error }, "sign of life"));
    }, BEAT_MS);
    try {
      const { files, dotsSha256 } = await this.make(render, (progress, doing) =>
        Object.assign(state, { progress, doing }),
      );
      await this.renders.finish(id, files, dotsSha256);
    } catch (error) {
      log.error({ err: error, render: id }, "render failed");
      await this.renders.fail(id, (error as Error).message);
    } finally {
      clearInterval(beat);
    }
  }

  private async make(render: RenderRow, report: (progress: number, doing: string) => void) {
    const routeId = String(render.route_id);
    const route = await this.routes.atRevision(routeId, render.revision);
    const ticket = await this.tickets.get((await this.routes.get(routeId)).ticketId);
    const source = await this.artworks.source(ticket.artwork.id);
    const results = await this.runner.run(route, source, {
      progress: (share, stage: StageId) => report(share * 0.6, stageById(stage).title.toLowerCase()),
    });
    report(0.6, "checks");
    const inspections = await this.runner.inspect(route, results);
    report(0.75, "writing files");
    const files = await filesOf(route, results, inspections, nextTurn);
    const stem = fileStem(ticket.number, ticket.piece, route.name, routeId, render.revision);
    const named = files.map((f) => ({ ...f, name: `${stem}-${f.name}` }));
    report(0.9, "job sheet");
    const { art } = results[results.length - 1];
    const checks = inspections.flatMap((i) => i.checks);
    const sheet = await drawJobSheet({ ticket, route, revision: render.revision, art, checks, files: named });
    named.push({ name: `${stem}-job-sheet.pdf`, mediaType: "application/pdf", bytes: sheet });
    report(0.95, "keeping the files");
    const kept = await this.keep(named);
    await this.noteFindings(routeId, render.revision, inspections);
    return { files: kept, dotsSha256: art.dots ? dotsFingerprint(art.dots.bits) : null };
  }

  private async keep(files: readonly DeliveredFile[]): Promise<StoredFile[]> {
    const kept: StoredFile[] = [];
    for (const { name, mediaType, bytes } of files) {
      kept.push({ name, mediaType, bytes: bytes.length, sha256: await this.blobs.put(bytes, mediaType) });
    }
    return kept;
  }

  private async noteFindings(
    routeId: string,
    revision: number,
    inspections: readonly StageInspection[],
  ): Promise<void> {
    const levels = inspections.flatMap((i) => i.checks.map((c) => c.level));
    const count = (level: string) => levels.filter((l) => l === level).length;
    await this.routes.find(routeId, { revision, looks: count("look"), stops: count("stop") });
  }
}
