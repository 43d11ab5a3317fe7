import { type RenderView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { zipSync } from "fflate";
import { sql, type Selectable } from "kysely";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema, type StoredFile } from "../database/schema";
import { notFound } from "../http/problems";
import { RoutesService } from "../routes/routes.service";
import { RenderQueue } from "./queue";

export type RenderRow = Selectable<Schema["renders"]>;

const MOST_ATTEMPTS = 3;

@Injectable()
export class RendersService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(RenderQueue) private readonly queue: RenderQueue,
  ) {}

  /** Asks for the files of a route as it stands. */
  async request(routeId: string): Promise<RenderView> {
    const { revision } = await this.routes.get(routeId);
    const row = await this.database
      .insertInto("renders")
      .values({ route_id: routeId, revision, state: "waiting", files: JSON.stringify([]) })
      .returningAll()
      .executeTakeFirstOrThrow();
    await this.queue.add(String(row.id));
    return renderView(row);
  }

  async get(id: string): Promise<RenderView> {
    return renderView(await this.row(id));
  }

  /** Hand-overs of a route, newest first. */
  async ofRoute(routeId: string): Promise<RenderView[]> {
    const rows = await this.database
      .selectFrom("renders")
      .selectAll()
      .where("route_id", "=", routeId)
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
  async zip(id: string): Promise<{ name: string; bytes: Uint8Array }> {
    const { files } = await this.row(id);
    if (files.length === 0) throw notFound("finished hand-over", id);
    const entries: Record<string, Uint8Array> = {};
    for (const file of files) entries[file.name] = await this.blobs.get(file.sha256);
    // Every hand-over has its readings, whatever else its route gives.
    const readings = "-readings.json";
    const name = files.find((f) => f.name.endsWith(readings))?.name.replace(readings, ".zip");
    return {
      name: name ?? `hand-over-${id}.zip`,
      bytes: zipSync(entries, { level: 0, mtime: "1980-01-01T12:00:00" }),
    };
  }

  /** A worker takes a render, unless another already has. */
  async claim(id: string): Promise<RenderRow | undefined> {
    return this.database
      .updateTable("renders")
      .set((e) => ({
        state: "running",
        doing: "starting",
        progress: 0,
        beat_at: sql<Date>`now()`,
        attempts: e("attempts", "+", 1),
      }))
      .where("id", "=", id)
      .where("state", "=", "waiting")
      .returningAll()
      .executeTakeFirst();
  }

  /** Sign of life of the worker, with how far it is. */
  async beat(id: string, progress: number, doing: string): Promise<void> {
    await this.database
      .updateTable("renders")
      .set({ progress, doing, beat_at: sql<Date>`now()` })
      .where("id", "=", id)
      .where("state", "=", "running")
      .execute();
  }

  async finish(id: string, files: readonly StoredFile[], dotsSha256: string | null): Promise<void> {
    await this.database
      .updateTable("renders")
      .set({ state: "done", progress: 1, doing: "", files: JSON.stringify(files), dots_sha256: dotsSha256 })
      .where("id", "=", id)
      .execute();
  }

  async fail(id: string, error: string): Promise<void> {
    await this.database
      .updateTable("renders")
      .set({ state: "failed", doing: "", error })
      .where("id", "=", id)
      .execute();
  }

  /** Renders whose worker gives no sign of life go back into the queue; after some tries they are given up. */
  async takeBackLost(leaseSeconds: number): Promise<void> {
    const lost = await this.database
      .updateTable("renders")
      .set({
        state: sql<
          "waiting" | "failed"
        >`case when attempts >= ${MOST_ATTEMPTS} then 'failed' else 'waiting' end`,
        error: sql<
          string | null
        >`case when attempts >= ${MOST_ATTEMPTS} then 'The worker was lost ' || attempts || ' times. Ask for the files again.' end`,
        doing: "its worker was lost; waiting for another",
      })
      .where("state", "=", "running")
      .where("beat_at", "<", sql<Date>`now() - make_interval(secs => ${leaseSeconds})`)
      .returning(["id", "state"])
      .execute();
    for (const { id, state } of lost) if (state === "waiting") await this.queue.add(String(id));
  }

  private async row(id: string): Promise<RenderRow> {
    const row = await this.database.selectFrom("renders").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("hand-over", id);
    return row;
  }
}

function renderView(row: RenderRow): RenderView {
  const id = String(row.id);
  return {
    id,
    routeId: String(row.route_id),
    revision: row.revision,
    state: row.state,
    progress: row.progress,
    doing: row.doing,
    error: row.error,
    dotsSha256: row.dots_sha256,
    files: row.files.map((f) => ({ ...f, url: `/api/renders/${id}/files/${encodeURIComponent(f.name)}` })),
    zipUrl: row.state === "done" ? `/api/renders/${id}/zip` : null,
    createdAt: row.created_at.toISOString(),
  };
}
