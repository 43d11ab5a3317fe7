import { Inject, Injectable, type OnApplicationShutdown } from "@nestjs/common";
import connectPg from "connect-pg-simple";
import { type Request, type RequestHandler } from "express";
import session from "express-session";
import { sql } from "kysely";
import { randomBytes } from "node:crypto";
import type pg from "pg";
import { Database, Pool } from "../database/database.module";
import { log } from "../log/log";

export const COOKIE = "hard_line";
const DAY_S = 86400;
/** A session that nobody uses for so long is over; one is over after so long whatever happens. In days. */
const [IDLE_DAYS, LONGEST_DAYS] = [14, 90];
const RENEW_EVERY_MS = 3600_000;

/** Who is signed in at which browser: kept in the database, so that every server knows it, and none has to remember it. */
@Injectable()
export class Sessions implements OnApplicationShutdown {
  private readonly store: InstanceType<ReturnType<typeof connectPg>>;
  private readonly renewed = new Map<string, number>();

  constructor(
    @Inject(Pool) pool: pg.Pool,
    @Inject(Database) private readonly database: Database,
  ) {
    this.store = new (connectPg(session))({
      pool,
      tableName: "sessions",
      ttl: IDLE_DAYS * DAY_S,
      // Written when somebody signs in, and never again: a request on its way cannot bring back one that has ended.
      disableTouch: true,
      pruneSessionInterval: 3600,
      errorLog: (...said: unknown[]) => log.warn({ said: said.map(String) }, "sessions"),
    });
  }

  onApplicationShutdown(): void {
    void this.store.close();
  }

  async middleware(): Promise<RequestHandler> {
    return session({
      name: COOKIE,
      secret: await this.secret("cookies"),
      store: this.store,
      resave: false,
      saveUninitialized: false,
      cookie: {
        httpOnly: true,
        sameSite: "strict",
        // Behind TLS the browser sends it by TLS alone.
        secure: "auto",
        maxAge: LONGEST_DAYS * DAY_S * 1000,
      },
    });
  }

  /** A word that all servers of a shop share, made by the first. */
  async secret(name: string, make = () => randomBytes(32).toString("base64")): Promise<string> {
    await this.database
      .insertInto("secrets")
      .values({ name, value: make() })
      .onConflict((c) => c.column("name").doNothing())
      .execute();
    const { value } = await this.database
      .selectFrom("secrets")
      .select("value")
      .where("name", "=", name)
      .executeTakeFirstOrThrow();
    return value;
  }

  /** Signs somebody in at a browser, under a new name: one that was known before is worth nothing then. */
  async begin(request: Request, personId: string, by: "password" | "pin"): Promise<void> {
    await new Promise<void>((done, failed) =>
      request.session.regenerate((error: unknown) => (error ? failed(error as Error) : done())),
    );
    Object.assign(request.session, { personId, by });
    await new Promise<void>((done, failed) =>
      request.session.save((error: unknown) => (error ? failed(error as Error) : done())),
    );
  }

  async end(request: Request): Promise<void> {
    await new Promise<void>((done, failed) =>
      request.session.destroy((error: unknown) => (error ? failed(error as Error) : done())),
    );
  }

  /** Ends every session of a person. */
  async endAll(personId: string): Promise<void> {
    await sql`delete from sessions where sess->>'personId' = ${personId}`.execute(this.database);
  }

  /** One that is used goes on. Only one that is there: this never makes one. */
  renew(sid: string): void {
    const now = Date.now();
    if (now - (this.renewed.get(sid) ?? 0) < RENEW_EVERY_MS) return;
    if (this.renewed.size > 10000) this.renewed.clear();
    this.renewed.set(sid, now);
    void sql`update sessions set expire = now() + make_interval(days => ${IDLE_DAYS}) where sid = ${sid}`
      .execute(this.database)
      .catch((error: unknown) => log.warn({ err: error }, "renewing a session"));
  }
}
