import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { sql, type RawBuilder, type Transaction } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { log } from "../log/log";
import { Settings } from "../settings";

const MOST_OFTEN_MS = 600000;
const DRAWINGS_KEPT = "30 days";

/** So many things that were left over are looked at in one transaction. */
const AT_ONCE = 500;

/**
 * Removes what nobody needs any more: pictures of revisions that were left long ago, unless named or approved, drawings long unused, artworks
 * without a ticket, and every blob that nothing names. The database writes down what may have lost its last name
 * (`left_over`), so that only this is looked at, however much there is that stays. Only what was left a while ago, as files
 * come before the rows that name them.
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
    await sql`delete from drawings where used_at < now() - ${DRAWINGS_KEPT}::interval`.execute(this.database);
    await sql`delete from arrivals where created_at < ${old} and state in ('done', 'failed')`.execute(
      this.database,
    );
    let bytes = 0;
    for (let looked = AT_ONCE; looked === AT_ONCE;) {
      const round = await this.database.transaction().execute((tx) => this.round(tx, old));
      looked = round.looked;
      bytes += round.bytes;
    }
    return bytes;
  }

  /** Looks at the oldest that were left over. What is still named is no longer left over. */
  private async round(
    tx: Transaction<Schema>,
    old: RawBuilder<unknown>,
  ): Promise<{ looked: number; bytes: number }> {
    const { rows: left } = await sql<{ what: string; key: string }>`
      delete from left_over where (what, key) in (
        select what, key from left_over
        where since < ${old} and (what <> 'picture' or since < now() - make_interval(days => ${this.settings.picturesDays}))
        order by since limit ${AT_ONCE} for update skip locked)
      returning what, key`.execute(tx);
    const keysOf = (what: string) => sql`${left.filter((l) => l.what === what).map((l) => l.key)}::text[]`;
    await sql`
      update route_revisions v set thumbnail_sha256 = null
      from unnest(${keysOf("picture")}) k join routes r on r.id = split_part(k, '/', 1)::bigint
      where v.route_id = r.id and v.revision = split_part(k, '/', 2)::int and r.revision <> v.revision
        and v.thumbnail_sha256 is not null and v.created_at < ${old}
        and v.name is null
        and not exists (select from approvals a where a.route_id = v.route_id and a.revision = v.revision)`.execute(
      tx,
    );
    const unused = sql`select a.id from artworks a where a.id = any(${keysOf("artwork")}::bigint[])
      and a.created_at < ${old}
      and not exists (select from tickets t where t.artwork_id = a.id)
      and not exists (select from photos p where p.artwork_id = a.id)
      and not exists (select from arrivals v where v.artwork_id = a.id)
      and not exists (select from renders r where r.wish->>'artworkId' = a.id::text)`;
    await sql`delete from drawings where artwork_id in (${unused})`.execute(tx);
    await sql`delete from artworks where id in (${unused})`.execute(tx);
    const { rows } = await sql<{ bytes: number }>`
      delete from blobs b
      where b.sha256 = any(${keysOf("blob")}) and b.created_at < ${old} and ${unnamed}
      returning bytes`.execute(tx);
    return { looked: left.length, bytes: rows.reduce((sum, r) => sum + Number(r.bytes), 0) };
  }
}

/** That nothing names a blob `b`. */
export const unnamed = sql`true
        and not exists (select from artworks a where a.file_sha256 = b.sha256)
        and not exists (select from artworks a where a.pixels_sha256 = b.sha256)
        and not exists (select from artworks a where a.thumbnail_sha256 = b.sha256)
        and not exists (select from arrivals v where v.sha256 = b.sha256)
        and not exists (select from artwork_halves h where h.sha256 = b.sha256)
        and not exists (select from fonts f where f.sha256 = b.sha256)
        and not exists (select from drawings d where d.sha256 = b.sha256)
        and not exists (select from route_revisions v where v.thumbnail_sha256 = b.sha256)
        and not exists (select from strips s where s.picture_sha256 = b.sha256)
        and not exists (select from runs u where u.program_sha256 = b.sha256)
        and not exists (select from runs u where u.sent_sha256 = b.sha256)
        and not exists (select from runs u where u.burned_sha256 = b.sha256)
        and not exists (select from runs u where u.plan->'bitmap'->>'sha256' = b.sha256)
        and not exists (
          select from renders r
          where r.files @> jsonb_build_array(jsonb_build_object('sha256', b.sha256)))`;
