import { type HandOver, type RenderView, type WorkKind } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Kysely, type RawBuilder, type Selectable, type UpdateObject } from "kysely";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema, type StoredFile } from "../database/schema";
import { notFound } from "../http/problems";
import { doer } from "../people/acting";
import { RoutesService } from "../routes/routes.service";
import { RenderQueue } from "./queue";
import { zipped } from "./zip";

export type RenderRow = Selectable<Schema["renders"]>;

/** Something that a worker is asked for. */
export interface Work {
  readonly kind: WorkKind;
  readonly routeId?: string;
  readonly revision?: number;
  readonly wish?: object;
  readonly batchId?: string;
}

/** What a work came to. */
export interface Made {
  readonly files: readonly StoredFile[];
  readonly dotsSha256?: string | null;
  readonly outcome?: object;
}

const MOST_ATTEMPTS = 3;

@Injectable()
export class RendersService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
  ) {}

  /** Asks for the files of a route as it stands, and as it was seen. */
  async request(routeId: string, { revision: seen, unit }: HandOver = {}): Promise<RenderView> {
    const { revision } = await this.routes.asSeen(routeId, seen);
    return this.ask({ kind: "hand over", routeId, revision, wish: unit && { unit } });
  }

  /** Asks for a route as a piece for sheets; what is known of it at this revision, and with this bleed, is not made again. */
  async piece(routeId: string, bleedMm: number): Promise<RenderView> {
    const { revision } = await this.routes.get(routeId);
    const known = await this.database
      .selectFrom("renders")
      .selectAll()
      .where("kind", "=", "piece")
      .where("routeId", "=", routeId)
      .where("revision", "=", revision)
      .where(sql`(wish->>'bleedMm')::float8`, "=", bleedMm)
      .where("state", "in", ["waiting", "running", "done"])
      .orderBy("id", "desc")
      .executeTakeFirst();
    if (known) return renderView(known);
    return this.ask({ kind: "piece", routeId, revision, wish: { bleedMm } });
  }

  /** Asks a worker for something: a row, and its place in the queue, in one transaction. */
  async ask(work: Work): Promise<RenderView> {
    return this.database.transaction().execute((tx) => this.askIn(tx, work));
  }

  async askIn(tx: Kysely<Schema>, { wish, ...work }: Work): Promise<RenderView> {
    const added = await tx
      .insertInto("renders")
      .values({
        ...work,
        ...doer(),
        ...{ state: "waiting", files: JSON.stringify([]), wish: wish ? JSON.stringify(wish) : null },
      })
      .returningAll()
      .executeTakeFirstOrThrow();
    await this.queue.add(String(added.id), tx);
    return renderView(added);
  }

  async get(id: string): Promise<RenderView> {
    return renderView(await this.row(id));
  }

  /** Hand-overs of a route, newest first. */
  async ofRoute(routeId: string): Promise<RenderView[]> {
    const rows = await this.database
      .selectFrom("renders")
      .selectAll()
      .where("routeId", "=", routeId)
      .where("kind", "=", "hand over")
      .orderBy("id", "desc")
      .limit(100)
      .execute();
    return rows.map(renderView);
  }

  async file(id: string, name: string): Promise<StoredFile> {
    const file = (await this.row(id)).files.find((f) => f.name === name);
    if (!file) throw notFound("file", name);
    return file;
  }

  /** All files in one archive, stored as they are; the same hand-over always gives the same bytes. */
  async zip(id: string): Promise<{ name: string; bytes: AsyncIterable<Uint8Array> }> {
    const { files } = await this.row(id);
    if (files.length === 0) throw notFound("finished hand-over", id);
    // Every hand-over has its readings, whatever else its route gives.
    const readings = /-?readings\.json$/;
    const name = files.find((f) => readings.test(f.name))?.name.replace(readings, ".zip");
    const entries = files.map((f) => ({ name: f.name, bytes: this.blobs.stream(f.sha256) }));
    return { name: name ?? `hand-over-${id}.zip`, bytes: zipped(entries) };
  }

  /** A worker takes a render, unless another already has. */
  claim(id: string): Promise<RenderRow | undefined> {
    return this.claimWhere(sql<string>`${id}::bigint`);
  }

  /** A worker that is done takes whatever waits next: what a person waits for before what is one of many. */
  claimNext(): Promise<RenderRow | undefined> {
    return this.claimWhere(sql<string>`(
      select id from renders where state = 'waiting'
      order by batch_id is not null, id limit 1 for update skip locked)`);
  }

  private claimWhere(id: RawBuilder<string>): Promise<RenderRow | undefined> {
    return this.database
      .updateTable("renders")
      .set((e) => ({
        state: "running",
        doing: "starting",
        progress: 0,
        beatAt: sql<Date>`now()`,
        attempts: e("attempts", "+", 1),
      }))
      .where("id", "=", id)
      .where("state", "=", "waiting")
      .returningAll()
      .executeTakeFirst();
  }

  /**
   * Sign of life of the worker, with how far it is. Everything a worker writes names the attempt it was given: one that
   * was given up for lost writes nothing any more.
   * @returns whether the render is still this worker's
   */
  async beat({ id, attempts }: RenderRow, progress: number, doing: string): Promise<boolean> {
    return this.write(id, attempts, { progress, doing, beatAt: sql<Date>`now()` });
  }

  finish({ id, attempts }: RenderRow, { files, dotsSha256, outcome }: Made): Promise<boolean> {
    const made = { files: JSON.stringify(files), dotsSha256: dotsSha256 ?? null };
    const ended = { endedAt: sql<Date>`now()`, outcome: outcome ? JSON.stringify(outcome) : null };
    return this.write(id, attempts, { state: "done", progress: 1, doing: "", ...made, ...ended });
  }

  fail({ id, attempts }: RenderRow, error: string): Promise<boolean> {
    return this.write(id, attempts, { state: "failed", doing: "", error, endedAt: sql<Date>`now()` });
  }

  private async write(
    id: string,
    attempt: number,
    values: UpdateObject<Schema, "renders">,
  ): Promise<boolean> {
    const { numUpdatedRows } = await this.database
      .updateTable("renders")
      .set(values)
      .where("id", "=", id)
      .where("state", "=", "running")
      .where("attempts", "=", attempt)
      .executeTakeFirst();
    return numUpdatedRows > 0n;
  }

  /**
   * Renders whose worker gives no sign of life go back into the queue; after some tries they are given up. So do those
   * that have waited long, in case their place in the queue was lost: a render that is taken already is not taken twice.
   */
  async takeBackLost(leaseSeconds: number): Promise<void> {
    const ago = (seconds: number) => sql<Date>`now() - make_interval(secs => ${seconds})`;
    await this.database.transaction().execute(async (tx) => {
      const lost = await tx
        .updateTable("renders")
        .set({
          state: sql<
            "waiting" | "failed"
          >`case when attempts >= ${MOST_ATTEMPTS} then 'failed' else 'waiting' end`,
          error: sql<
            string | null
          >`case when attempts >= ${MOST_ATTEMPTS} then 'The worker was lost ' || attempts || ' times. Ask for the files again.' end`,
          doing: "its worker was lost; waiting for another",
          beatAt: sql<Date>`now()`,
        })
        .where("state", "=", "running")
        .where("beatAt", "<", ago(leaseSeconds))
        .returning(["id", "state"])
        .execute();
      const left = await tx
        .updateTable("renders")
        .set({ beatAt: sql<Date>`now()` })
        .where("state", "=", "waiting")
        .where(sql`coalesce(beat_at, created_at)`, "<", ago(6 * leaseSeconds))
        .returning(["id", "state"])
        .execute();
      for (const { id, state } of [...lost, ...left])
        if (state === "waiting") await this.queue.add(String(id), tx);
    });
  }

  async row(id: string): Promise<RenderRow> {
    const row = await this.database.selectFrom("renders").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("hand-over", id);
    return row;
  }
}

function renderView(row: RenderRow): RenderView {
  const id = String(row.id);
  return {
    id,
    kind: row.kind,
    outcome: row.outcome,
    routeId: String(row.routeId ?? ""),
    revision: row.revision ?? 0,
    state: row.state === "stopped" ? "failed" : row.state,
    progress: row.progress,
    doing: row.doing,
    error: row.error,
    dotsSha256: row.dotsSha256,
    files: row.files.map((f) => ({ ...f, url: `/api/renders/${id}/files/${encodeURIComponent(f.name)}` })),
    zipUrl: row.state === "done" ? `/api/renders/${id}/zip` : null,
    createdAt: row.createdAt.toISOString(),
  };
}
