import {
  type InvitationView,
  type NewTokenView,
  type Problem,
  type Role,
  type Scope,
  type SessionView,
} from "@hardline/contract";
import pg from "pg";

/** A password that is on no list. */
export const PASSWORD = "seven herring crates";

export interface Answer<T = unknown> {
  readonly status: number;
  readonly headers: Headers;
  readonly body: T;
}

/** Somebody at a browser of one's own: keeps the cookie, and sends it back. */
export class Visitor {
  cookie = "";

  constructor(
    readonly url: string,
    private readonly more: Readonly<Record<string, string>> = {},
  ) {}

  async call<T = Problem>(method: string, path: string, json?: unknown): Promise<Answer<T>> {
    const response = await fetch(`${this.url}${path}`, {
      method,
      body: json === undefined ? undefined : JSON.stringify(json),
      headers: {
        ...(json === undefined ? {} : { "Content-Type": "application/json" }),
        ...(this.cookie ? { Cookie: this.cookie } : {}),
        ...this.more,
      },
      // A stream is answered as soon as it is there.
      signal: AbortSignal.timeout(20000),
    });
    const [set] = response.headers.getSetCookie();
    if (set) this.cookie = set.split(";")[0];
    if (response.headers.get("content-type")?.includes("event-stream")) {
      await response.body?.cancel();
      return { status: response.status, headers: response.headers, body: undefined as T };
    }
    const text = await response.text();
    const isJson = response.headers.get("content-type")?.includes("json");
    return {
      ...response,
      status: response.status,
      headers: response.headers,
      body: (isJson && text ? JSON.parse(text) : text) as T,
    };
  }

  /** The answer's body. @throws where it was refused */
  async ask<T>(method: string, path: string, json?: unknown): Promise<T> {
    const { status, body } = await this.call<T>(method, path, json);
    if (status >= 400) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(body)}`);
    return body;
  }

  session = (): Promise<SessionView> => this.ask("GET", "/api/session");
  signIn = (name: string, password = PASSWORD, code?: string) =>
    this.call<SessionView>("POST", "/api/session", { name, password, code });
}

/** A shop's first person, by the code that lies in its database. */
export async function firstOwner(url: string, databaseUrl: string, name = "Ann Orrin"): Promise<Visitor> {
  const client = new pg.Client(databaseUrl);
  await client.connect();
  const { rows } = await client.query("select value from secrets where name = 'first-owner'");
  await client.end();
  const owner = new Visitor(url);
  await owner.ask("POST", "/api/first-owner", { code: rows[0].value, name, password: PASSWORD });
  return owner;
}

/** Somebody who was invited and came. */
export async function invited(owner: Visitor, name: string, role: Role): Promise<Visitor & { id: string }> {
  const { code, person } = await owner.ask<InvitationView>("POST", "/api/people", { name, role });
  const visitor = new Visitor(owner.url);
  await visitor.ask("POST", `/api/invitations/${code}`, { password: PASSWORD });
  return Object.assign(visitor, { id: person.id });
}

/** A program with a token. */
export async function programWith(owner: Visitor, scopes: readonly Scope[]): Promise<Visitor> {
  const { secret } = await owner.ask<NewTokenView>("POST", "/api/tokens", { name: scopes.join(" "), scopes });
  return new Visitor(owner.url, { Authorization: `Bearer ${secret}` });
}
