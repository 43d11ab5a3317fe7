import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { log } from "../log/log";
import { Settings } from "../settings";

const MOST_OFTEN_MS = 600000;
const DRAWINGS_KEPT = "30 days";

/**
 * Removes what nobody can come to any more: thumbnails of revisions that do not stand, drawings long unused, artworks
 * without a ticket, and then every blob that nothing names. Only what is older than a while, as files come before the
 * rows that name them.
 */
@Injectable()
export class Collector implements OnApplicationBootstrap, OnApplicationShutdown {
  private timer?: NodeJS.Timeout;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(Database) private readonly database: Database,
  ) {}

  onApplicationBootstrap(): void {
    const { role, collectAfterSeconds } = this.settings;
    if (role === "worker") return;
    const collect = () =>
      this.collect(collectAfterSeconds).catch((error) => log.warn({ err: error }, "collecting"));
    this.timer = setInterval(() => void collect(), Math.min(MOST_OFTEN_MS, collectAfterSeconds * 1000));
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /** @returns bytes of the blobs that were removed */
  async collect(afterSeconds: number): Promise<number> {
    const old = sql`now() - make_interval(secs => ${afterSeconds})`;
    return this.database.transaction().execute(async (tx) => {
      const run = (query: ReturnType<typeof sql>) => query.execute(tx);
      await run(sql`
        update route_revisions v set thumbnail_sha256 = null from routes r
        where r.id = v.route_id and r.revision <> v.revision
          and v.thumbnail_sha256 is not null and v.created_at < ${old}`);
      await run(sql`delete from drawings where used_at < now() - ${DRAWINGS_KEPT}::interval`);
      await run(sql`delete from arrivals where created_at < ${old} and state in ('done', 'failed')`);
      const unused = sql`select a.id from artworks a where a.created_at < ${old}
        and not exists (select from tickets t where t.artwork_id = a.id)
        and not exists (select from arrivals v where v.artwork_id = a.id)
        and not exists (select from renders r where r.wish->>'artworkId' = a.id::text)`;
      await run(sql`delete from drawings where artwork_id in (${unused})`);
      await run(sql`delete from artworks where id in (${unused})`);
      const { rows } = await sql<{ bytes: number }>`
        delete from blobs b
        where b.created_at < ${old}
          and not exists (select from artworks a where b.sha256 in (a.sha256, a.pixels_sha256, a.thumbnail_sha256))
          and not exists (select from arrivals v where v.sha256 = b.sha256)
          and not exists (select from artwork_halves h where h.sha256 = b.sha256)
          and not exists (select from drawings d where d.sha256 = b.sha256)
          and not exists (select from route_revisions v where v.thumbnail_sha256 = b.sha256)
          and not exists (select from strips s where s.picture_sha256 = b.sha256)
          and not exists (
            select from runs u where b.sha256 in (u.program_sha256, u.sent_sha256, u.burned_sha256, u.plan->'bitmap'->>'sha256'))
          and not exists (
            select from renders r, jsonb_array_elements(r.files) f where f->>'sha256' = b.sha256)
        returning bytes`.execute(tx);
      return rows.reduce((sum, r) => sum + r.bytes, 0);
    });
  }
}
