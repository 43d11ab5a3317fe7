import { type BatchItemView, type BatchView, type NewBatch } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Selectable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { houseRoute } from "../houseRoutes/houseRoutes.service";
import { filledRoute } from "@hardline/core/route/fields";
import { notFound, ProblemException } from "../http/problems";
import { doer } from "../people/acting";
import { RoutesService } from "../routes/routes.service";
import { BlobStore } from "../blobs/blob.store";
import { RenderQueue } from "../renders/queue";
import { zipped } from "../renders/zip";

const STATES = ["waiting", "running", "done", "failed", "stopped"] as const;
/** Workers that are woken for a batch; each then takes one after another. */
const WAKE = 64;

/** House routes run over many pictures, or many lines of text. */
@Injectable()
export class BatchesService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(RoutesService) private readonly routes: RoutesService,
  ) {}

  async create({ name, houseRouteId, routeId, items }: NewBatch): Promise<BatchView> {
    if ((houseRouteId === undefined) === (routeId === undefined))
      throw new ProblemException(
        400,
        "Not valid",
        "houseRouteId and routeId: exactly one of them says which route is run.",
      );
    const route = houseRouteId
      ? (await houseRoute(this.database, houseRouteId)).route
      : (await this.routes.get(routeId!)).route;
    // Whatever cannot be filled is refused before anything is begun.
    for (const { fields } of items) if (fields) filledRoute(route, fields);
    const id = await this.database.transaction().execute(async (tx) => {
      const batch = await tx
        .insertInto("batches")
        .values({ name, route: JSON.stringify(route) })
        .returning("id")
        .executeTakeFirstOrThrow();
      const values = items.map((wish) => ({
        ...{ kind: "batch" as const, batchId: batch.id, wish: JSON.stringify(wish) },
        ...{ state: "waiting" as const, files: JSON.stringify([]), ...doer() },
      }));
      const added: string[] = [];
      for (let k = 0; k < values.length; k += 500) {
        const rows = await tx
          .insertInto("renders")
          .values(values.slice(k, k + 500))
          .returning("id")
          .execute();
        added.push(...rows.map((r) => String(r.id)));
      }
      for (const one of added.slice(0, WAKE)) await this.queue.add(one, tx);
      return String(batch.id);
    });
    return this.get(id);
  }

  async list(): Promise<BatchView[]> {
    const rows = await this.database
      .selectFrom("batches")
      .selectAll()
      .orderBy("id", "desc")
      .limit(100)
      .execute();
    return this.views(rows);
  }

  async get(id: string): Promise<BatchView> {
    const row = await this.database.selectFrom("batches").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("batch", id);
    return (await this.views([row]))[0];
  }

  async items(id: string): Promise<BatchItemView[]> {
    const rows = await this.database
      .selectFrom("renders")
      .selectAll()
      .where("batchId", "=", id)
      .orderBy("id")
      .execute();
    return rows.map(({ id: own, wish, state, progress, error, attempts, files }) => ({
      ...{
        id: String(own),
        name: (wish as unknown as { name: string }).name,
        state,
        progress,
        error,
        attempts,
      },
      ...{ files: files.length, zipUrl: state === "done" ? `/api/renders/${own}/zip` : null },
    }));
  }

  /** What waits is not begun; what is at work is done to its end. */
  async stop(id: string): Promise<BatchView> {
    await this.database.updateTable("batches").set({ stoppedAt: new Date() }).where("id", "=", id).execute();
    await this.database
      .updateTable("renders")
      .set({ state: "stopped" })
      .where("batchId", "=", id)
      .where("state", "=", "waiting")
      .execute();
    return this.get(id);
  }

  /** What was stopped waits again; what failed is tried once more when it is wished. */
  async resume(id: string, failedToo: boolean): Promise<BatchView> {
    await this.database.transaction().execute(async (tx) => {
      await tx.updateTable("batches").set({ stoppedAt: null }).where("id", "=", id).execute();
      const rows = await tx
        .updateTable("renders")
        .set({ state: "waiting", attempts: 0, error: null, progress: 0, endedAt: null })
        .where("batchId", "=", id)
        .where("state", "in", failedToo ? ["stopped", "failed"] : ["stopped"])
        .returning("id")
        .execute();
      for (const row of rows.slice(0, WAKE)) await this.queue.add(String(row.id), tx);
    });
    return this.get(id);
  }

  /** Files of all that are done, in one archive. */
  async zip(id: string): Promise<{ name: string; bytes: AsyncIterable<Uint8Array> }> {
    const { name } = await this.get(id);
    const rows = await this.database
      .selectFrom("renders")
      .select(["id", "files"])
      .where("batchId", "=", id)
      .where("state", "=", "done")
      .orderBy("id")
      .execute();
    const seen = new Map<string, number>();
    const entries = rows.flatMap(({ files }) =>
      files.map((f) => {
        // Two of one name both go in.
        const times = (seen.get(f.name) ?? 0) + 1;
        seen.set(f.name, times);
        const unique = times > 1 ? f.name.replace(/(\.[a-z]+)?$/, `-${times}$1`) : f.name;
        return { name: unique, bytes: this.blobs.stream(f.sha256) };
      }),
    );
    return { name: `${name.replace(/[^A-Za-z0-9]+/g, "-") || "batch"}.zip`, bytes: zipped(entries) };
  }

  /** Batches with how far they are, all of them in one question. */
  private async views(batches: readonly Selectable<Schema["batches"]>[]): Promise<BatchView[]> {
    const ids = batches.map((b) => String(b.id));
    const { rows } = await sql<{ batchId: string; state: State; count: number; endedAt: Date | null }>`
      select batch_id, state, count(*)::int as count, max(ended_at) as ended_at
      from renders where batch_id = any(${ids}::bigint[]) group by batch_id, state`.execute(this.database);
    return batches.map((batch) =>
      batchView(
        batch,
        rows.filter((r) => String(r.batchId) === String(batch.id)),
      ),
    );
  }
}

type State = (typeof STATES)[number];

function batchView(
  { id, name, route, stoppedAt, createdAt }: Selectable<Schema["batches"]>,
  rows: readonly { readonly state: State; readonly count: number; readonly endedAt: Date | null }[],
): BatchView {
  const counts = Object.fromEntries(STATES.map((s) => [s, rows.find((r) => r.state === s)?.count ?? 0]));
  const ended = counts.waiting + counts.running === 0;
  const last = Math.max(0, ...rows.map((r) => r.endedAt?.getTime() ?? 0));
  const seconds = (last - createdAt.getTime()) / 1000;
  return {
    ...{ id: String(id), name, route: (route as { name?: string }).name ?? "", stopped: stoppedAt !== null },
    counts: counts as BatchView["counts"],
    ...{ seconds: ended && seconds > 0 ? seconds : null, createdAt: createdAt.toISOString() },
  };
}
