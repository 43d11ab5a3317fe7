import { deliver, findingsOf, planOf, Preview, Runner, stageById, type DeliveredFile } from "@hardline/core";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { BlobStore } from "../blobs/blob.store";
import { askAgain, isAway } from "../database/away";
import { type StoredFile } from "../database/schema";
import { log } from "../http/log";
import { RoutesService } from "../routes/routes.service";
import { Settings } from "../settings";
import { TicketsService } from "../tickets/tickets.service";
import { fileStem } from "./fileNames";
import { drawJobSheet, SHEET_PICTURE } from "./jobSheet";
import { PlatePictures } from "./platePictures";
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
    lean: true,
  });
  private sweep?: NodeJS.Timeout;
  /** How long a finished render asks a database that is away; less than others wait for it. */
  private readonly patience: number;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {
    this.patience = settings.leaseSeconds * 1000;
  }

  async onApplicationBootstrap(): Promise<void> {
    const { role, leaseSeconds } = this.settings;
    const lookAround = () =>
      this.renders
        .takeBackLost(leaseSeconds)
        .catch((error) => log.warn({ err: error }, "looking for lost renders"));
    if (role !== "worker") await lookAround();
    this.sweep = setInterval(lookAround, leaseSeconds * 500);
    if (role === "worker") await this.queue.work((id) => this.take(id));
  }

  onApplicationShutdown(): void {
    clearInterval(this.sweep);
  }

  private async take(id: string): Promise<void> {
    const render = await this.renders.claim(id);
    if (!render) return; // another worker has it, or it is done
    const state = { progress: 0, doing: "reading the artwork" };
    const lost = new AbortController();
    const beat = setInterval(() => {
      this.renders.beat(render, state.progress, state.doing).then(
        (ours) => !ours && lost.abort(),
        (error) => log.warn({ err: error }, "sign of life"),
      );
    }, BEAT_MS);
    const report = (progress: number, doing: string) => Object.assign(state, { progress, doing });
    try {
      const { files, dotsSha256 } = await this.make(render, report, lost.signal);
      await askAgain(() => this.renders.finish(render, files, dotsSha256), this.patience);
    } catch (error) {
      if (lost.signal.aborted || isAway(error)) {
        // Whoever has it now, or takes it once the database is back, makes it whole.
        log.warn({ err: error, render: id }, "render let go");
        return;
      }
      log.error({ err: error, render: id }, "render failed");
      await askAgain(() => this.renders.fail(render, (error as Error).message), this.patience);
    } finally {
      clearInterval(beat);
    }
  }

  private async make(
    render: RenderRow,
    report: (progress: number, doing: string) => void,
    signal: AbortSignal,
  ) {
    const routeId = String(render.route_id);
    const route = await this.routes.atRevision(routeId, render.revision);
    const ticket = await this.tickets.get((await this.routes.get(routeId)).ticketId);
    const source = await this.artworks.source(ticket.artwork.id);
    const stem = fileStem(ticket.number, ticket.piece, route.name, routeId, render.revision);
    const kept: StoredFile[] = [];
    const keep = async ({ name, mediaType, bytes }: DeliveredFile): Promise<void> => {
      const sha256 = await this.blobs.put(bytes, mediaType);
      kept.push({ name: `${stem}-${name}`, mediaType, bytes: bytes.length, sha256 });
    };
    const preview = new Preview(SHEET_PICTURE);
    const plates = new PlatePictures();
    const { checks, fingerprint, readings } = await deliver(this.runner, route, source, {
      pause: nextTurn,
      signal,
      progress: (share, stage) => report(share * 0.95, stageById(stage).title.toLowerCase()),
      file: keep,
      job: `${ticket.number} ${ticket.piece}, ${route.name}`,
      seen: (result) => {
        preview.add(result);
        plates.add(result);
      },
    });
    report(0.95, "job sheet");
    const { revision } = render;
    const { finish } = planOf(route, source.facts).place;
    const picture = preview.picture;
    const sheet = await drawJobSheet({
      ...{ ticket, route, revision, finish, picture, checks },
      files: kept,
      plates: plates.with(readings),
    });
    await keep({ name: "job-sheet.pdf", mediaType: "application/pdf", bytes: sheet });
    await this.routes.find(routeId, { revision, ...findingsOf(checks) });
    return { files: kept, dotsSha256: fingerprint };
  }
}
