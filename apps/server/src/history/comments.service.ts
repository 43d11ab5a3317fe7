import { type ByView, type CommentView, type NewComment } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";
import { doer } from "../people/acting";
import { byOf, isOwn } from "../people/by";

/** So many a ticket may have. */
const MOST = 500;

interface Row {
  readonly id: string;
  readonly text: string;
  readonly routeId: string | null;
  readonly atX: number | null;
  readonly atY: number | null;
  readonly personId: string | null;
  readonly by: ByView;
  readonly doneAt: Date | null;
  readonly doneBy: ByView | null;
  readonly createdAt: Date;
}

/** What people of the shop tell one another of a ticket. */
@Injectable()
export class CommentsService {
  constructor(@Inject(Database) private readonly database: Database) {}

  async list(ticketId: string): Promise<CommentView[]> {
    const { rows } = await sql<Row>`
      select c.id, c.text, c.route_id::text, c.at_x, c.at_y, c.person_id::text, ${byOf("c")} as by, c.done_at, c.created_at,
        (select jsonb_build_object('id', p.id::text, 'name', p.name) from people p where p.id = c.done_by) as done_by
      from comments c where c.ticket_id = ${ticketId} order by c.id`.execute(this.database);
    return rows.map((row) => ({
      ...{ id: String(row.id), text: row.text, by: row.by, at: row.createdAt.toISOString() },
      ...{ routeId: row.routeId, own: isOwn(row) },
      place: row.atX === null || row.atY === null ? null : [row.atX, row.atY],
      done: row.doneAt && {
        by: row.doneBy ?? { id: null, name: "Hard Line" },
        at: row.doneAt.toISOString(),
      },
    }));
  }

  async add(ticketId: string, { text, routeId, at }: NewComment): Promise<CommentView> {
    const { rows } = await sql<{ own: boolean; count: number }>`
      select (${routeId ?? null}::bigint is null or exists (
          select from routes where id = ${routeId ?? null}::bigint and ticket_id = t.id)) as own,
        (select count(*)::int from comments where ticket_id = t.id) as count
      from tickets t where t.id = ${ticketId}`.execute(this.database);
    if (rows.length === 0) throw notFound("ticket", ticketId);
    const [{ own, count }] = rows;
    if (!own)
      throw new ProblemException(400, "Not valid", `routeId is ${routeId}, which is of another ticket`);
    if (count >= MOST)
      throw new ProblemException(409, "Too many", `There are ${count} comments here; ${MOST} are allowed.`);
    const { id } = await this.database
      .insertInto("comments")
      .values({ ticketId, routeId, text, atX: at?.[0], atY: at?.[1], ...doer() })
      .returning("id")
      .executeTakeFirstOrThrow();
    return (await this.list(ticketId)).find((c) => c.id === String(id))!;
  }

  /** Seen to, or, asked again, not yet. */
  async done(id: string, is: boolean): Promise<{ ticketId: string }> {
    const row = await this.database
      .updateTable("comments")
      .set(is ? { doneAt: new Date(), doneBy: doer().personId } : { doneAt: null, doneBy: null })
      .where("id", "=", id)
      .returning("ticketId")
      .executeTakeFirst();
    if (!row) throw notFound("comment", id);
    return { ticketId: String(row.ticketId) };
  }

  /** One's own alone. */
  async remove(id: string): Promise<{ ticketId: string }> {
    const row = await this.database
      .selectFrom("comments")
      .select(["ticketId", "personId"])
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("comment", id);
    if (!isOwn(row)) throw new ProblemException(403, "Not yours", "Somebody else wrote this comment.");
    await this.database.deleteFrom("comments").where("id", "=", id).execute();
    return { ticketId: String(row.ticketId) };
  }
}
