import { type ByView, type WatchView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { concatMap, distinctUntilChanged, exhaustMap, finalize, from, timer, type Observable } from "rxjs";
import { Database } from "../database/database.module";
import { log } from "../log/log";
import { doer } from "../people/acting";
import { byOf } from "../people/by";
import { notFound } from "../http/problems";

/** A ticket is looked at so often, in milliseconds, and whoever looks says so. */
const EVERY_MS = 1000;
/** Whoever has not said so for this long has gone. */
const GONE = "6 seconds";

/** Who is at a ticket, and what became of its routes meanwhile. */
@Injectable()
export class WatchService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** For one who is at a ticket: what there is, each time it changes. As long as this is heard, others see that one there. */
  watch(ticketId: string, routeId: string | null): Observable<WatchView> {
    const { personId } = doer();
    return from(this.come(ticketId, routeId, personId)).pipe(
      concatMap((id) =>
        timer(0, EVERY_MS).pipe(
          exhaustMap(() => from(this.look(ticketId, id))),
          finalize(() => void this.go(id)),
        ),
      ),
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
    );
  }

  /** A program looks without being seen. */
  private async come(
    ticketId: string,
    routeId: string | null,
    personId: string | null,
  ): Promise<string | null> {
    const ticket = await this.database
      .selectFrom("tickets")
      .select("id")
      .where("id", "=", ticketId)
      .executeTakeFirst();
    if (!ticket) throw notFound("ticket", ticketId);
    if (personId === null) return null;
    const { id } = await this.database
      .insertInto("presences")
      .values({ ticketId, routeId, personId })
      .returning("id")
      .executeTakeFirstOrThrow();
    return String(id);
  }

  private async look(ticketId: string, id: string | null): Promise<WatchView> {
    const { rows } = await sql<{
      people: WatchView["people"];
      routes: { id: string; version: number; revision: number; by: ByView }[];
      comments: number;
    }>`
      with beaten as (update presences set beat_at = now() where id = ${id}::bigint returning id)
      select
        (select coalesce(jsonb_agg(distinct jsonb_build_object('id', q.person_id::text, 'name', p.name, 'routeId', q.route_id::text)), '[]')
          from presences q join people p on p.id = q.person_id
          where q.ticket_id = ${ticketId} and q.beat_at > now() - ${GONE}::interval
            and q.id is distinct from ${id}::bigint) as people,
        (select coalesce(jsonb_agg(jsonb_build_object('id', r.id::text, 'version', r.version, 'revision', r.revision, 'by', ${byOf("v")}) order by r.id), '[]')
          from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
          where r.ticket_id = ${ticketId}) as routes,
        (select count(*)::int from comments where ticket_id = ${ticketId} and done_at is null) as comments
      from (select count(*) from beaten) b`.execute(this.database);
    return rows[0];
  }

  private async go(id: string | null): Promise<void> {
    if (id === null) return;
    try {
      await sql`delete from presences where id = ${id} or beat_at < now() - interval '1 hour'`.execute(
        this.database,
      );
    } catch (error) {
      log.warn({ err: error }, "leaving a ticket"); // its beat says so in a moment
    }
  }
}
