import { PIN_RIGHTS, ROLE_RIGHTS, type Right, type Role } from "@hardline/contract";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { type NextFunction, type Request, type RequestHandler, type Response } from "express";
import { sql } from "kysely";
import { createHash } from "node:crypto";
import { Database } from "../database/database.module";
import { sendProblem } from "../http/problems";
import { log } from "../log/log";
import { Settings } from "../settings";
import { actingAs, type Actor } from "./acting";
import { DemoPeople } from "./demo";
import { isOpen } from "./operations";
import { COOKIE, Sessions } from "./sessions";

/** Whoever was known within so long may stop a machine while nobody can be asked, in milliseconds. */
const REMEMBERED_MS = 12 * 3600_000;
const MOST_REMEMBERED = 2000;
/** Streams that are open are looked at so often: whoever is signed out hears no more. */
const STREAMS_MS = 5000;
const USED_MS = 60_000;

const MAKES_SAFE = /^\/api\/runs\/\d+\/(stop|pause)$/;

interface Remembered {
  readonly actor: Actor;
  readonly at: number;
}

/**
 * Finds out who asks: by the session of a browser, a program's token, or, in the demo and on loopback alone, its operator.
 * Who is not known is refused here, before a body is read, but for what is open to anybody.
 *
 * Stopping and pausing a machine waits for nothing: who was known a while ago is known for that, be the database away.
 */
@Injectable()
export class Identify implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly remembered = new Map<string, Remembered>();
  private readonly used = new Map<string, number>();
  private readonly streams = new Map<Response, Actor>();
  private timer: NodeJS.Timeout | undefined;

  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(DemoPeople) private readonly demo: DemoPeople,
    @Inject(Settings) private readonly settings: Settings,
  ) {}

  onApplicationBootstrap(): void {
    if (this.settings.role === "worker" || this.settings.role === "seed") return;
    this.timer = setInterval(() => void this.endStreams(), STREAMS_MS).unref();
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  async middleware(): Promise<RequestHandler> {
    const readSession = await this.sessions.middleware();
    return (request, response, next) => {
      // Addresses are found by handlers whatever their capitals.
      if (!/^\/+api(\/|$)/i.test(request.path)) return next();
      const safe = request.method === "POST" && MAKES_SAFE.test(request.path) ? this.recall(request) : null;
      if (safe) return this.go(request, response, next, safe);
      readSession(request, response, (error?: unknown) => {
        if (error) return next(error);
        this.actorOf(request).then(
          (actor) => this.go(request, response, next, actor),
          (failed: unknown) => next(failed),
        );
      });
    };
  }

  /** Forgets who was known by a session: of one that has ended, or of all that a person has. */
  forget(whom: { readonly sid?: string; readonly personId?: string; readonly tokenId?: string }): void {
    const isThat = (actor: Actor): boolean =>
      (whom.sid !== undefined && actor.sid === whom.sid) ||
      (whom.personId !== undefined && actor.personId === whom.personId) ||
      (whom.tokenId !== undefined && actor.tokenId === whom.tokenId);
    for (const [key, { actor }] of this.remembered) if (isThat(actor)) this.remembered.delete(key);
    for (const [response, actor] of this.streams) if (isThat(actor)) response.destroy();
  }

  private go(request: Request, response: Response, next: NextFunction, actor: Actor | null): void {
    request.actor = actor;
    if (!actor && !isOpen(request.method, request.path)) {
      request.resume();
      return sendProblem(request, response, {
        ...{ type: "about:blank", title: "Not signed in", status: 401 },
        detail: "Sign in first.",
      });
    }
    if (!actor) return next();
    this.remember(request, actor);
    if (request.headers.accept?.includes("text/event-stream")) {
      this.streams.set(response, actor);
      response.on("close", () => this.streams.delete(response));
    }
    actingAs(actor, next);
  }

  private async actorOf(request: Request): Promise<Actor | null> {
    const { authorization } = request.headers;
    if (authorization !== undefined) return this.ofToken(authorization);
    const { personId, by } = request.session ?? {};
    if (personId && by) {
      const known = await this.ofSession(personId, by, request.sessionID);
      if (known) return known;
    }
    return this.demo.signedIn(request);
  }

  /** Who a session is of; null where that one has left. */
  async ofSession(personId: string, by: "password" | "pin", sid: string): Promise<Actor | null> {
    const known = await this.person(personId);
    if (!known) return null;
    this.sessions.renew(sid);
    const rights = ROLE_RIGHTS[known.role].filter((r) => by === "password" || PIN_RIGHTS.includes(r));
    return { personId, tokenId: null, ...known, rights, by, sid };
  }

  private async person(id: string): Promise<{ name: string; role: Role } | undefined> {
    return this.database
      .selectFrom("people")
      .select(["name", "role"])
      .where("id", "=", id)
      .where("leftAt", "is", null)
      .executeTakeFirst();
  }

  private async ofToken(header: string): Promise<Actor | null> {
    const [, secret] = /^Bearer ([\w-]{20,100})$/.exec(header) ?? [];
    if (!secret) return null;
    const sha256 = createHash("sha256").update(secret).digest("hex");
    const row = await this.database
      .selectFrom("tokens")
      .select(["id", "name", "scopes"])
      .where("sha256", "=", sha256)
      .where("removedAt", "is", null)
      .executeTakeFirst();
    if (!row) return null;
    const tokenId = String(row.id);
    this.noteUse(tokenId);
    const rights: readonly Right[] = row.scopes;
    return { personId: null, tokenId, name: row.name, role: null, rights, by: "token", sid: null };
  }

  private noteUse(tokenId: string): void {
    const now = Date.now();
    if (now - (this.used.get(tokenId) ?? 0) < USED_MS) return;
    this.used.set(tokenId, now);
    void sql`update tokens set used_at = now() where id = ${tokenId}`
      .execute(this.database)
      .catch((error: unknown) => log.warn({ err: error }, "noting that a token was used"));
  }

  private remember(request: Request, actor: Actor): void {
    const key = credentialsOf(request);
    if (!key || !actor.rights.includes("run")) return;
    if (this.remembered.size > MOST_REMEMBERED) this.remembered.clear();
    this.remembered.set(key, { actor, at: Date.now() });
  }

  private recall(request: Request): Actor | null {
    const key = credentialsOf(request);
    if (!key) return this.demo.signedIn(request);
    const known = this.remembered.get(key);
    return known && Date.now() - known.at < REMEMBERED_MS ? known.actor : null;
  }

  /** Ends the streams of those who are signed out by now, by whichever server. */
  private async endStreams(): Promise<void> {
    const open = [...this.streams.values()];
    const sids = open.flatMap(({ sid }) => (sid ? [sid] : []));
    const tokens = open.flatMap(({ tokenId }) => (tokenId ? [tokenId] : []));
    if (sids.length + tokens.length === 0) return;
    try {
      const { rows } = await sql<{ key: string }>`
        select 's' || s.sid as key from sessions s
          join people p on p.id = (s.sess->>'personId')::bigint and p.left_at is null
          where s.sid = any(${sids}::text[]) and s.expire > now()
        union all select 't' || id from tokens where id = any(${tokens}::bigint[]) and removed_at is null`.execute(
        this.database,
      );
      const alive = new Set(rows.map(({ key }) => key));
      for (const [response, { sid, tokenId }] of this.streams)
        if ((sid && !alive.has(`s${sid}`)) || (tokenId && !alive.has(`t${tokenId}`))) response.destroy();
    } catch (error) {
      log.warn({ err: error }, "looking who is still signed in");
    }
  }
}

/** What a request is known by, as it was sent. */
function credentialsOf({ headers }: Request): string | null {
  if (headers.authorization !== undefined) return headers.authorization;
  return new RegExp(`(?:^|;\\s*)${COOKIE}=([^;]+)`).exec(headers.cookie ?? "")?.[1] ?? null;
}
