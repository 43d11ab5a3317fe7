import { type RunView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { type Insertable, type Selectable, type Updateable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound } from "../http/problems";

export type RunRow = Selectable<Schema["runs"]>;

/** Runs that wait at their machine, or are at work there. */
export const IN_QUEUE = ["queued", "running", "paused", "held"] as const;

/** The runs of all machines, as they are kept. */
@Injectable()
export class RunsStore {
  constructor(@Inject(Database) private readonly database: Database) {}

  async row(id: string): Promise<RunRow> {
    const row = await this.database.selectFrom("runs").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("run", id);
    return row;
  }

  async add(values: Insertable<Schema["runs"]>): Promise<RunRow> {
    return this.database.insertInto("runs").values(values).returningAll().executeTakeFirstOrThrow();
  }

  /** @param from  only while it is in one of these states. @returns whether it was */
  async set(
    id: string,
    values: Updateable<Schema["runs"]>,
    from?: readonly RunRow["state"][],
  ): Promise<boolean> {
    let query = this.database.updateTable("runs").set(values).where("id", "=", id);
    if (from) query = query.where("state", "in", [...from]);
    return (await query.executeTakeFirst()).numUpdatedRows > 0n;
  }

  /** Runs of a machine that wait or are at work, in their order. */
  queueOf(machine: string): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("machine_key", "=", machine)
      .where("state", "in", [...IN_QUEUE])
      .orderBy("place")
      .orderBy("id")
      .execute();
  }

  ofTicket(ticketId: string): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("ticket_id", "=", ticketId)
      .orderBy("id", "desc")
      .limit(100)
      .execute();
  }

  recent(): Promise<RunRow[]> {
    return this.database.selectFrom("runs").selectAll().orderBy("id", "desc").limit(60).execute();
  }

  ofSheet(sheetId: string): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("sheet_id", "=", sheetId)
      .orderBy("id", "desc")
      .limit(100)
      .execute();
  }
}

const idText = (id: string | null): string | null => (id === null ? null : String(id));

export function runView(row: RunRow): RunView {
  const id = String(row.id);
  return {
    ...{ id, machine: row.machine_key, name: row.name, state: row.state, progress: row.progress },
    ...{ ticketId: idText(row.ticket_id), routeId: idText(row.route_id), revision: row.revision },
    ...{ sheetId: idText(row.sheet_id), sheet: row.sheet, plan: row.plan, wish: row.wish },
    ...{ executed: row.executed, seconds: row.seconds, error: row.error, made: row.made, eye: row.eye },
    burnedUrl: row.burned_sha256 ? `/api/runs/${id}/burned` : null,
    programUrl: row.program_sha256 ? `/api/runs/${id}/program` : null,
    startedAt: row.started_at?.toISOString() ?? null,
    endedAt: row.ended_at?.toISOString() ?? null,
    createdAt: row.created_at.toISOString(),
  };
}
