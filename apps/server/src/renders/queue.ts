import { Inject, Injectable, type OnApplicationShutdown, type OnModuleInit } from "@nestjs/common";
import { CompiledQuery, type Kysely } from "kysely";
import type pg from "pg";
import PgBoss from "pg-boss";
import { askAgain } from "../database/away";
import { Pool } from "../database/database.module";
import { type Schema } from "../database/schema";
import { log } from "../log/log";

const QUEUE = "render";
/** How long the queue asks a database that is away. Longer than a restart of it takes. */
const PATIENCE_MS = 60000;

/** The queue of renders, in PostgreSQL, so that any number of workers on any machines may take from it. */
@Injectable()
export class RenderQueue implements OnModuleInit, OnApplicationShutdown {
  private readonly boss: PgBoss;

  constructor(@Inject(Pool) pool: pg.Pool) {
    // By the product's own pool, whose broken connections end nobody. All that the queue asks may be asked twice: the
    // row of a render says who has it.
    const executeSql = (text: string, values: unknown[]) =>
      askAgain(() => pool.query(text, values), PATIENCE_MS);
    this.boss = new PgBoss({ db: { executeSql }, schedule: false });
    this.boss.on("error", (error) => log.warn({ err: error }, "queue"));
  }

  async onModuleInit(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
  }

  async onApplicationShutdown(): Promise<void> {
    await this.boss.stop({ graceful: false, wait: false });
  }

  /** @param tx  the transaction that makes the render's row, so that there is never one without the other */
  async add(renderId: string, tx: Kysely<Schema>): Promise<void> {
    const db = {
      executeSql: async (text: string, values: unknown[]) => ({
        rows: (await tx.withoutPlugins().executeQuery(CompiledQuery.raw(text, values))).rows,
      }),
    };
    await this.boss.send(QUEUE, { renderId }, { retryLimit: 0, expireInHours: 4, db });
  }

  async work(take: (renderId: string) => Promise<void>): Promise<void> {
    await this.boss.work<{ renderId: string }>(
      QUEUE,
      { batchSize: 1, pollingIntervalSeconds: 0.5 },
      async ([job]) => take(job.data.renderId),
    );
  }
}
