import {
  type ArrivalView,
  type ArtworkView,
  type NewTicket,
  type RouteView,
  type TicketView,
} from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { createServer } from "node:net";
import { join } from "node:path";
import pg from "pg";
import { firstOwner } from "./visitor";

export const ROOT = join(__dirname, "../..");

/** The throw-away cluster that `npm test` and `npm run measure` start. */
const adminUrl = (): string => {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error("TEST_DATABASE_URL is not set; run this through npm test or npm run measure");
  return url;
};

/** A new, empty database of the cluster. */
export async function newDatabase(): Promise<string> {
  const client = new pg.Client(adminUrl());
  await client.connect();
  const name = `try_${process.pid}_${Math.floor(performance.now() * 1000)}`;
  await client.query(`create database ${name}`);
  await client.end();
  return adminUrl().replace(/\/[^/]*$/, `/${name}`);
}

export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, "127.0.0.1");
  await once(probe, "listening");
  const { port } = probe.address() as { port: number };
  probe.close();
  return port;
}

export interface Program {
  readonly url: string;
  readonly process: ChildProcess;
  /** The last of what it wrote on standard error. */
  readonly said: () => string;
  /** Ends it at once, as kill -9 would. */
  readonly kill: () => Promise<void>;
  readonly stop: () => Promise<void>;
}

/** Starts the built program, or that of another copy, on a database and waits until it says that it is ready. */
export async function startProgram(
  databaseUrl: string,
  args: readonly string[] = [],
  env: NodeJS.ProcessEnv = {},
  root = ROOT,
): Promise<Program> {
  const port = await freePort();
  const child = spawn(process.execPath, [join(root, "apps/server/dist/main.js"), ...args], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      // The operator is signed in by himself, as in the demo; what is about people starts it without.
      HARDLINE_DEMO: "1",
      LOG_LEVEL: process.env.LOG_LEVEL ?? "error",
      ...env,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  child.stderr!.on("data", (data: Buffer) => {
    said = (said + data.toString()).slice(-10000);
    if (!/^Nobody is there yet/.test(data.toString())) process.stderr.write(data);
  });
  const exited = once(child, "exit");
  // Nothing that is started here outlives whoever started it.
  const gone = () => child.kill("SIGKILL");
  process.once("exit", gone);
  void exited.then(() => process.off("exit", gone));
  const end = async (signal: NodeJS.Signals) => {
    if (child.exitCode === null && child.signalCode === null) {
      child.kill(signal);
      await exited;
    }
  };
  await Promise.race([
    once(child.stdout!, "data"),
    exited.then(() =>
      Promise.reject(new Error(`the program ended with ${child.exitCode} before it was ready`)),
    ),
  ]);
  return {
    url: `http://127.0.0.1:${port}`,
    process: child,
    said: () => said,
    kill: () => end("SIGKILL"),
    stop: () => end("SIGTERM"),
  };
}

/** What lets one in at programs that were started without the demo, by their addresses. */
const letIn = new Map<string, Readonly<Record<string, string>>>();
const cookies = new Map<string, string>();

/** Headers to be sent with whatever is asked at an address: none where nobody has to sign in. */
export const credentials = (url: string): Readonly<Record<string, string>> =>
  letIn.get(new URL(url).origin) ?? {};

/** Starts the program as a shop has it, which asks who is there, and signs its owner in: `ask` sends that along. */
export async function startSignedIn(
  ...[databaseUrl, args, env, root]: Parameters<typeof startProgram>
): Promise<Program> {
  const program = await startProgram(databaseUrl, args, { HARDLINE_DEMO: "0", ...env }, root);
  if (args?.includes("--role=worker")) return program;
  let cookie = cookies.get(databaseUrl);
  if (cookie === undefined) {
    ({ cookie } = await firstOwner(program.url, databaseUrl));
    cookies.set(databaseUrl, cookie);
  }
  letIn.set(program.url, { Cookie: cookie });
  return program;
}

export async function ask<T>(url: string, method = "GET", json?: unknown): Promise<T> {
  const response = await fetch(url, {
    method,
    body: json === undefined ? undefined : JSON.stringify(json),
    headers: { ...credentials(url), ...(json === undefined ? {} : { "Content-Type": "application/json" }) },
  });
  const body = await response.text();
  if (!response.ok) throw new Error(`${method} ${url}: ${response.status} ${body}`);
  return (body ? JSON.parse(body) : undefined) as T;
}

/** A photograph-like JPEG, rendered by the built demo in a process of its own. */
export function photographOf(width: number, height: number): Buffer {
  const script = `require(${JSON.stringify(join(ROOT, "demo/dist/index.js"))}).photograph(${width}, ${height}, 90).then((b) => process.stdout.write(b))`;
  return execFileSync(process.execPath, ["-e", script], { maxBuffer: 1 << 26 });
}

/** An artwork that was taken in at once, or, a large one, is followed until it is there. */
async function artworkOf(url: string, answer: ArtworkView | ArrivalView): Promise<ArtworkView> {
  if (!("state" in answer)) return answer;
  for (let arrival = answer; ; arrival = await ask<ArrivalView>(`${url}/api/arrivals/${arrival.id}`)) {
    if (arrival.artwork) return arrival.artwork;
    if (arrival.state === "failed") throw new Error(`${arrival.name}: ${arrival.error}`);
    await new Promise((go) => setTimeout(go, 200));
  }
}

/** A ticket with an artwork, its first route set to the given stages. */
export async function addTicket(
  url: string,
  bytes: Uint8Array,
  name: string,
  stages: readonly object[],
  known: Partial<NewTicket> = {},
): Promise<{ ticket: TicketView; route: RouteView }> {
  const response = await fetch(`${url}/api/artworks?name=${encodeURIComponent(name)}`, {
    method: "POST",
    body: bytes as Uint8Array<ArrayBuffer>,
    headers: credentials(url),
  });
  if (!response.ok) throw new Error(`${name}: ${response.status} ${await response.text()}`);
  const artwork = await artworkOf(url, (await response.json()) as ArtworkView | ArrivalView);
  const ticket = await ask<TicketView>(`${url}/api/tickets`, "POST", { artworkId: artwork.id, ...known });
  const first = await ask<RouteView>(`${url}/api/routes/${ticket.routes[0].id}`);
  const route = readRoute({ format: "hard-line-route", version: 1, name: "Try", stages });
  return {
    ticket,
    route: await ask<RouteView>(`${url}/api/routes/${first.id}`, "PUT", { version: first.version, route }),
  };
}
