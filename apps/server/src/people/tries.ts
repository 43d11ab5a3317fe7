import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { createHash } from "node:crypto";
import { Database } from "../database/database.module";
import { ProblemException } from "../http/problems";

/** Tries are counted over so long, in seconds. */
const WITHIN_S = 600;
const FORGET_EVERY_MS = 3600_000;

/** So many tries at one account, and from one address, within ten minutes. */
export const [MOST_OF_ACCOUNT, MOST_FROM_ADDRESS, MOST_OF_PIN] = [10, 40, 5] as const;

/** Counts tries at passwords and codes, for all servers of a shop alike. */
@Injectable()
export class Tries {
  private forgot = 0;

  constructor(@Inject(Database) private readonly database: Database) {}

  /**
   * Counts one try, before it is made: many at once are counted too.
   * @throws ProblemException 429 where there were too many
   */
  async count(what: string, most: number): Promise<void> {
    await this.forget();
    const { rows } = await sql<{ count: number; left: number }>`
      insert into tries as t (key, count) values (${keyOf(what)}, 1)
      on conflict (key) do update set
        count = case when t.since < now() - make_interval(secs => ${WITHIN_S}) then 1 else t.count + 1 end,
        since = case when t.since < now() - make_interval(secs => ${WITHIN_S}) then now() else t.since end
      returning count, ceil(extract(epoch from since - now()) + ${WITHIN_S})::int as left`.execute(
      this.database,
    );
    const [{ count, left }] = rows;
    if (count <= most) return;
    const minutes = Math.max(1, Math.ceil(left / 60));
    throw new ProblemException(
      429,
      "Too many tries",
      `There were ${most} tries within ${WITHIN_S / 60} minutes. Try again in ${minutes} ${minutes === 1 ? "minute" : "minutes"}.`,
    );
  }

  /** It was the right one: tries before it do not count any more. */
  async forgive(what: string): Promise<void> {
    await this.database.deleteFrom("tries").where("key", "=", keyOf(what)).execute();
  }

  private async forget(): Promise<void> {
    if (Date.now() - this.forgot < FORGET_EVERY_MS) return;
    this.forgot = Date.now();
    await sql`delete from tries where since < now() - interval '1 day'`.execute(this.database);
  }
}

/** Names that somebody typed are not kept as they are: one may be a password in the wrong field. */
const keyOf = (what: string): string => createHash("sha256").update(what).digest("hex");

/** Whoever has one address of IPv6 has a whole network of them. */
export const networkOf = (address = ""): string =>
  address.includes(":") && !address.startsWith("::ffff:")
    ? address.split(":").slice(0, 4).join(":")
    : address;
