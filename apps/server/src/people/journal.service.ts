import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { type Doer } from "../database/schema";
import { log } from "../log/log";

export interface Note extends Doer {
  readonly words: string;
  readonly subject: string | null;
  readonly ticketId: string | null;
  readonly routeId: string | null;
  readonly revision: number | null;
  readonly runId: string | null;
}

/** What was done in the shop, by whom, and when. */
@Injectable()
export class JournalService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** What was done stays done where this cannot be written: a machine that was stopped is stopped. */
  async note({ personId, tokenId, words, subject, ticketId, routeId, revision, runId }: Note): Promise<void> {
    try {
      await sql`
        insert into journal (person_id, token_id, words, subject, route_id, revision, run_id, ticket_id)
        values (${personId}, ${tokenId}, ${words}, ${subject}, ${routeId}, ${revision}, ${runId}, coalesce(
          ${ticketId}::bigint,
          (select ticket_id from routes where id = ${routeId}::bigint),
          (select ticket_id from runs where id = ${runId}::bigint)))`.execute(this.database);
    } catch (error) {
      log.error({ err: error, words, subject }, "the journal");
    }
  }
}
