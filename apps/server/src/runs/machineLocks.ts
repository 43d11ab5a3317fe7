import { Inject, Injectable, type OnApplicationShutdown } from "@nestjs/common";
import pg from "pg";
import { log } from "../log/log";
import { Settings } from "../settings";

/** Locks of machines are kept apart from others by this. */
const LOCKS = 7301;
export const WISHES = "hard_line_wishes";
const WAIT_MS = 5000;

/**
 * Who drives which machine, and what is wished of its runs, over one connection to the database however many machines
 * there are: a lock in PostgreSQL for each, which goes with the connection, and word of each wish as it is written down.
 */
@Injectable()
export class MachineLocks implements OnApplicationShutdown {
  private client: pg.Client | null = null;
  private opening: Promise<pg.Client> | null = null;
  private readonly held = new Set<string>();
  private closed = false;
  /** Told when the connection, and with it every lock, is lost. */
  onLost: () => void = () => {};
  /** Told of a run of which something is wished. */
  onWish: (runId: string) => void = () => {};

  constructor(@Inject(Settings) private readonly settings: Settings) {}

  /** @returns whether the machine is this program's now. Never two at once. */
  async take(machine: string): Promise<boolean> {
    if (this.held.has(machine)) return true;
    const client = await this.connected();
    const { rows } = await client.query<{ ours: boolean }>(
      "select pg_try_advisory_lock($1, hashtext($2)) as ours",
      [LOCKS, machine],
    );
    if (!rows[0].ours) return false;
    if (this.client !== client) return false; // lost meanwhile
    this.held.add(machine);
    return true;
  }

  async give(machine: string): Promise<void> {
    if (!this.held.delete(machine)) return;
    await this.client
      ?.query("select pg_advisory_unlock($1, hashtext($2))", [LOCKS, machine])
      .catch((error: unknown) => {
        log.warn({ err: error, machine }, "giving a machine back");
        this.lost();
      });
  }

  /** Looks whether the connection still stands: one that is half open says nothing by itself. */
  async look(): Promise<void> {
    if (!this.client) return void (await this.connected());
    await this.client.query("select 1").catch((error: unknown) => {
      log.warn({ err: error }, "the connection that holds machines");
      this.lost();
    });
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    await this.client?.end().catch(() => {});
  }

  /** Has the connection open, so that word of wishes comes. */
  async connected(): Promise<pg.Client> {
    if (this.client) return this.client;
    this.opening ??= this.open().finally(() => (this.opening = null));
    return this.opening;
  }

  private async open(): Promise<pg.Client> {
    if (this.closed) throw new Error("the program is ending");
    const client = new pg.Client({
      connectionString: this.settings.databaseUrl,
      ...{ connectionTimeoutMillis: WAIT_MS, query_timeout: WAIT_MS, keepAlive: true },
    });
    client.on("error", (error) => log.warn({ err: error }, "the connection that holds machines"));
    client.on("end", () => this.client === client && this.lost());
    client.on("notification", ({ payload }) => payload && this.onWish(payload));
    try {
      await client.connect();
      await client.query(`listen ${WISHES}`);
    } catch (error) {
      // What was opened must not stay: it is opened anew at the next look.
      await client.end().catch((e: unknown) => log.warn({ err: e }, "closing a connection that failed"));
      throw error;
    }
    if (this.closed) {
      await client.end();
      throw new Error("the program is ending");
    }
    this.client = client;
    return client;
  }

  private lost(): void {
    const { client } = this;
    this.client = null;
    this.held.clear();
    void client?.end().catch(() => {});
    if (!this.closed) this.onLost();
  }
}
