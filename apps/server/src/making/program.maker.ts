import { type RunPlanView } from "@hardline/contract";
import { writeBitsPng } from "@hardline/core/format/png";
import { passNames, type Job } from "@hardline/core/machine/job";
import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { planRun } from "@hardline/core/machine/plan";
import { runnable } from "@hardline/core/machine/runnable";
import { isWished } from "@hardline/core/machine/wish";
import { drive } from "@hardline/core/maths/work";
import { longFingerprint } from "@hardline/core/raster/fingerprint";
import { type Runner } from "@hardline/core/route/runner";
import { markPlaces } from "@hardline/core/sheet/marks";
import { type SheetPiece } from "@hardline/core/sheet/piece";
import { marksOf } from "@hardline/core/sheet/sheetFile";
import { sheetJob } from "@hardline/core/sheet/sheetJob";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { BlobStore } from "../blobs/blob.store";
import { MachinesService } from "../machines/machines.service";
import { RunsStore, type RunRow } from "../runs/runs.store";
import { SheetsService } from "../sheets/sheets.service";
import { type Made, type RenderRow } from "../renders/renders.service";
import { type Maker, type Making } from "./maker";
import { Pieces } from "./pieces";
import { type JobMarks } from "@hardline/core/machine/jobMarks";

/** The program of a run, and what is known of it before it is sent. */
@Injectable()
export class ProgramMaker implements Maker {
  constructor(
    @Inject(Pieces) private readonly pieces: Pieces,
    @Inject(SheetsService) private readonly sheets: SheetsService,
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(RunsStore) private readonly runs: RunsStore,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async make(work: RenderRow, making: Making): Promise<Made> {
    const { runId } = work.wish as { runId: string };
    const run = await this.runs.row(runId);
    try {
      await this.plan(run, making);
    } catch (error) {
      if (!making.signal.aborted)
        await this.runs.set(runId, { state: "failed", error: (error as Error).message }, ["preparing"]);
      throw error;
    }
    return { files: [] };
  }

  /** Plans a run, and keeps its program. */
  async plan(run: RunRow, { runner, report, signal }: Making): Promise<void> {
    const id = String(run.id);
    const told = (progress: number, doing: string): void => {
      report(progress, doing);
      void this.runs.set(id, { progress }).catch(() => {});
    };
    const { machine } = await this.machines.get(run.machineKey);
    const kind = machineKindOf(machine);
    const { job, marks } = run.sheetId
      ? await this.ofSheet(run, runner, machine, told, signal)
      : { job: await this.ofRoute(run, runner, told, signal), marks: null };
    const wish =
      kind.onePlate && !run.wish.passes ? { ...run.wish, passes: passNames(job).slice(0, 1) } : run.wish;
    const plan = await drive(planRun(job, machine, wish), {
      ...{ signal, pause: nextTurn },
      progress: (share) => told(0.6 + 0.35 * share, "plan"),
    });
    const { program, passes, ...measured } = plan;
    const sha256 = await this.blobs.put(program.bytes, program.mediaType);
    const bitmap =
      kind.takes.rows && job.bitmaps.length === 1 && isWished(wish, job.bitmaps[0].name)
        ? job.bitmaps[0]
        : null;
    let bitmapSha: string | null = null;
    if (bitmap) {
      const png = await drive(writeBitsPng(bitmap.bits, bitmap.dotsPerInch), { pause: nextTurn, signal });
      bitmapSha = await this.blobs.put(png, "image/png");
    }
    const lines = kind.program.sent === "whole" ? program.passes[0].lines[1] : countLines(program.bytes);
    const view: RunPlanView = {
      ...measured,
      passes: program.passes.map((p, k) => ({
        ...{ name: p.name, use: p.use, lines: p.lines, rows: p.rows, paths: p.paths },
        seconds: passes.find((s) => s.name === p.name)?.seconds ?? passes[k]?.seconds ?? 0,
      })),
      ...{ at: program.at, widthMm: job.widthMm, heightMm: job.heightMm, lines },
      ...{
        sha256: await drive(longFingerprint(program.bytes), { pause: nextTurn }),
        bytes: program.bytes.length,
      },
      mediaType: program.mediaType,
      bitmap: bitmap
        ? {
            width: bitmap.bits.width,
            height: bitmap.bits.height,
            dotsPerInch: bitmap.dotsPerInch,
            sha256: bitmapSha!,
          }
        : null,
      marks: marks?.places.length ?? 0,
    };
    // The camera has the program made anew, so what it is made of is kept.
    const kept = marks
      ? {
          marks,
          sets: job.sets.map(({ points, starts, closed, ...set }) => ({
            ...set,
            points: [...points],
            starts: [...starts],
            closed: [...closed],
          })),
        }
      : null;
    // One that was stopped meanwhile stays so.
    const planned = {
      ...{ plan: JSON.stringify(view), programSha256: sha256, progress: 1 },
      ...{ wish: JSON.stringify(wish), job: kept ? JSON.stringify(kept) : null },
    };
    await this.runs.set(id, { ...planned, state: "ready" }, ["preparing"]);
  }

  private async ofRoute(
    run: RunRow,
    runner: Runner,
    told: (p: number, doing: string) => void,
    signal: AbortSignal,
  ): Promise<Job> {
    const { route, source } = await this.pieces.source(String(run.routeId), run.revision!);
    const progress = (share: number, stage: string) => told(0.6 * share, stage);
    return runnable(runner, route, source, { signal, progress }, run.name);
  }

  private async ofSheet(
    run: RunRow,
    runner: Runner,
    machine: Machine,
    told: (p: number, doing: string) => void,
    signal: AbortSignal,
  ): Promise<{ job: Job; marks: JobMarks | null }> {
    const { body, placings, revisions } = await this.sheets.get(String(run.sheetId));
    const pieces: SheetPiece[] = [];
    for (const { routeId } of body.pieces)
      pieces.push(
        await this.pieces.at(runner, routeId, revisions[routeId], {
          ...{ bleedMm: body.bleedMm, signal },
          progress: (share, stage) => told((0.5 * (pieces.length + share)) / body.pieces.length, stage),
        }),
      );
    const own = placings.filter((p) => p.sheet === run.sheet! - 1);
    const job = await drive(sheetJob(run.name, pieces, own, body.stock, body.commonLines), {
      pause: nextTurn,
      signal,
    });
    const entry = machineKindOf(machine).marks ? marksOf(body) : null;
    const { widthMm, heightMm } = body.stock;
    return { job, marks: entry ? { entry, places: markPlaces(entry, body.stock), widthMm, heightMm } : null };
  }
}

const countLines = (bytes: Uint8Array): number => bytes.reduce((n, b) => n + +(b === 10), 0);
