import { AT_WORK, IN_QUEUE, type RunView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { type Wish } from "@hardline/core/machine/control";
import { sql, type Insertable, type Selectable, type Updateable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound } from "../http/problems";
import { doer } from "../people/acting";
import { WISHES } from "./machineLocks";

export type RunRow = Selectable<Schema["runs"]>;

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
    return this.database
      .insertInto("runs")
      .values({ ...values, ...doer() })
      .returningAll()
      .executeTakeFirstOrThrow();
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

  /**
   * How a run at work is. @returns what is wished of it; nothing when it is not at work any more
   */
  keep(
    id: string,
    values: Updateable<Schema["runs"]>,
  ): Promise<Pick<RunRow, "wanted" | "wantedNo"> | undefined> {
    return this.database
      .updateTable("runs")
      .set(values)
      .where("id", "=", id)
      .where("state", "in", [...AT_WORK])
      .returning(["wanted", "wantedNo"])
      .executeTakeFirst();
  }

  /** How a run at work came to rest. */
  rest(id: string, values: Updateable<Schema["runs"]>): Promise<boolean> {
    return this.set(id, values, AT_WORK);
  }

  /**
   * Writes down what is wished of a run at work, and tells whoever drives it, on whichever server.
   * @returns the number of the wish; nothing when the run is not at work
   */
  async wish(id: string, wanted: Wish): Promise<number | undefined> {
    return this.database.transaction().execute(async (tx) => {
      const row = await tx
        .updateTable("runs")
        .set((e) => ({ wanted, wantedNo: e("wantedNo", "+", 1) }))
        .where("id", "=", id)
        .where("state", "in", [...AT_WORK])
        .returning("wantedNo")
        .executeTakeFirst();
      if (row) await sql`select pg_notify(${WISHES}, ${id})`.execute(tx);
      return row?.wantedNo;
    });
  }

  /** Runs of all machines that wait or are at work, in their order. */
  queues(): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("state", "in", [...IN_QUEUE])
      .orderBy("place")
      .orderBy("id")
      .execute();
  }

  /** Runs of a machine that wait or are at work, in their order. */
  queueOf(machine: string): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("machineKey", "=", machine)
      .where("state", "in", [...IN_QUEUE])
      .orderBy("place")
      .orderBy("id")
      .execute();
  }

  ofTicket(ticketId: string): Promise<RunRow[]> {
    return this.database
      .selectFrom("runs")
      .selectAll()
      .where("ticketId", "=", ticketId)
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
      .where("sheetId", "=", sheetId)
      .orderBy("id", "desc")
      .limit(100)
      .execute();
  }
}

const idText = (id: string | null): string | null => (id === null ? null : String(id));

export function runView(row: RunRow): RunView {
  const id = String(row.id);
  return {
    ...{ id, machine: row.machineKey, name: row.name, state: row.state, progress: row.progress },
    ...{ ticketId: idText(row.ticketId), routeId: idText(row.routeId), revision: row.revision },
    ...{ sheetId: idText(row.sheetId), sheet: row.sheet, plan: row.plan, wish: row.wish },
    ...{ executed: row.executed, seconds: row.seconds, error: row.error, made: row.made, camera: row.camera },
    burnedUrl: row.burnedSha256 ? `/api/runs/${id}/burned` : null,
    programUrl: row.programSha256 ? `/api/runs/${id}/program` : null,
    startedAt: row.startedAt?.toISOString() ?? null,
    endedAt: row.endedAt?.toISOString() ?? null,
    createdAt: row.createdAt.toISOString(),
  };
}
