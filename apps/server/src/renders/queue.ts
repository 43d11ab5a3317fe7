import { Inject, Injectable, type OnApplicationShutdown, type OnModuleInit } from "@nestjs/common";
import PgBoss from "pg-boss";
import { log } from "../http/log";
import { Settings } from "../settings";

const QUEUE = "render";

/** The queue of renders, in PostgreSQL, so that any number of workers on any machines may take from it. */
@Injectable()
export class RenderQueue implements OnModuleInit, OnApplicationShutdown {
  private readonly boss: PgBoss;

  constructor(@Inject(Settings) settings: Settings) {
    this.boss = new PgBoss({ connectionString: settings.databaseUrl, schedule: false, max: 4 });
    this.boss.on("error", (error) => log.warn({ err: error }, "queue"));
  }

  async onModuleInit(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
  }

  async onApplicationShutdown(): Promise<void> {
    await this.boss.stop({ graceful: false, wait: false });
  }

  async add(renderId: string): Promise<void> {
    await this.boss.send(QUEUE, { renderId }, { retryLimit: 0, expireInHours: 4 });
  }

  async work(take: (renderId: string) => Promise<void>): Promise<void> {
    await this.boss.work<{ renderId: string }>(
      QUEUE,
      { batchSize: 1, pollingIntervalSeconds: 0.5 },
      async ([job]) => take(job.data.renderId),
    );
  }
}
