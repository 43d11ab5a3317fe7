import { type WorkKind } from "@hardline/contract";
import { Runner } from "@hardline/core/route/runner";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ThingsService } from "../things/things.service";
import { FontsService } from "../fonts/fonts.service";
import { askAgain, isAway } from "../database/away";
import { log } from "../log/log";
import { Settings } from "../settings";
import { actingAs } from "../people/acting";
import { BatchMaker } from "./batch.maker";
import { HandOverMaker } from "./handOver.maker";
import { type Maker } from "./maker";
import { PieceMaker } from "./piece.maker";
import { ProgramMaker } from "./program.maker";
import { SheetMaker } from "./sheet.maker";
import { RenderQueue } from "../renders/queue";
import { RendersService, type RenderRow } from "../renders/renders.service";

const BEAT_MS = 500;

/** Takes renders from the queue, one at a time, and makes their files. */
@Injectable()
export class RenderWorker implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly runner: Runner;
  private readonly makers: Record<WorkKind, Maker>;
  private sweep?: NodeJS.Timeout;
  /** How long a finished render asks a database that is away; less than others wait for it. */
  private readonly patience: number;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(HandOverMaker) handOver: HandOverMaker,
    @Inject(PieceMaker) piece: PieceMaker,
    @Inject(ProgramMaker) program: ProgramMaker,
    @Inject(SheetMaker) sheet: SheetMaker,
    @Inject(BatchMaker) batch: BatchMaker,
    @Inject(FontsService) fonts: FontsService,
    @Inject(ThingsService) photos: ThingsService,
  ) {
    this.runner = new Runner({
      ...{ pause: nextTurn, clock: () => performance.now() },
      ...{ cacheBytes: 256 << 20, lean: true, fonts, photos },
    });
    this.makers = { "hand over": handOver, piece, program, sheet, batch };
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
    // Another may have it, or it is done. Whatever else waits is taken as well: the queue need only wake a worker.
    let work = (await this.renders.claim(id)) ?? (await this.renders.claimNext());
    for (; work; work = await this.renders.claimNext()) await this.see(work);
  }

  private async see(render: RenderRow): Promise<void> {
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
      const { personId = null, tokenId = null } = render;
      // What it makes is made by whoever asked for it.
      const made = await actingAs({ personId, tokenId }, () =>
        this.makers[render.kind].make(render, {
          runner: this.runner,
          report,
          signal: lost.signal,
        }),
      );
      await askAgain(() => this.renders.finish(render, made), this.patience);
    } catch (error) {
      if (lost.signal.aborted || isAway(error)) {
        // Whoever has it now, or takes it once the database is back, makes it whole.
        log.warn({ err: error, render: render.id }, "render let go");
        return;
      }
      log.error({ err: error, render: render.id }, "render failed");
      await askAgain(() => this.renders.fail(render, (error as Error).message), this.patience);
    } finally {
      clearInterval(beat);
    }
  }
}
