import { type DoneView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { type Doer } from "../database/schema";
import { log } from "../log/log";
import { byOf } from "./by";

/** So much is told at once. */
const MOST = 1000;

export interface Note extends Doer {
  readonly words: string;
  readonly subject: string | null;
  readonly ticketId: string | null;
  readonly routeId: string | null;
  readonly revision: number | null;
  readonly runId: string | null;
  readonly customerId: string | null;
}

/** What was done in the shop, by whom, and when. */
@Injectable()
export class JournalService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** What was done stays done where this cannot be written: a machine that was stopped is stopped. */
  async note({
    personId,
    tokenId,
    words,
    subject,
    ticketId,
    routeId,
    revision,
    runId,
    customerId,
  }: Note): Promise<void> {
    try {
      await sql`
        insert into journal (person_id, token_id, words, subject, route_id, revision, run_id, customer_id, ticket_id)
        values (${personId}, ${tokenId}, ${words}, ${subject}, ${routeId}, ${revision}, ${runId}, ${customerId}, coalesce(
          ${ticketId}::bigint,
          (select ticket_id from routes where id = ${routeId}::bigint),
          (select ticket_id from runs where id = ${runId}::bigint)))`.execute(this.database);
    } catch (error) {
      log.error({ err: error, words, subject }, "the journal");
    }
  }

  /** What was done between two moments, the latest first; revisions of a route by one person count together, hour by hour. */
  async list(from: Date, to: Date, person?: string): Promise<DoneView[]> {
    const of = (row: string) =>
      person === undefined ? sql`` : sql`and ${sql.ref(`${row}.person_id`)} = ${person}::bigint`;
    const { rows } = await sql<DoneView & { at: Date }>`
      with done as (
        select j.at, ${byOf("j")} as by, j.words, j.subject, j.ticket_id, j.route_id, j.revision, j.run_id
        from journal j where j.at >= ${from} and j.at < ${to} ${of("j")}
        union all
        select max(v.created_at), ${byOf("v")}, case when count(*) = 1 then 'changed' else 'changed ' || count(*) || ' times' end,
          null, r.ticket_id, r.id, max(v.revision), null
        from route_revisions v join routes r on r.id = v.route_id
        where v.created_at >= ${from} and v.created_at < ${to} and v.parent is not null ${of("v")}
        group by r.id, v.person_id, v.token_id, date_trunc('hour', v.created_at)
      )
      select d.at, d.by, d.words, d.subject, d.revision, d.run_id::text,
        case when t.id is null then null else jsonb_build_object('id', t.id::text, 'number', t.number, 'piece', t.piece) end as ticket,
        case when r.id is null then null else jsonb_build_object('id', r.id::text, 'name', v.body->>'name') end as route
      from done d
      left join tickets t on t.id = d.ticket_id
      left join routes r on r.id = d.route_id
      left join route_revisions v on v.route_id = r.id and v.revision = r.revision
      order by d.at desc limit ${MOST}`.execute(this.database);
    return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
  }
}
