import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { wedgeRoute } from "@hardline/core/wedge/wedge";
import { request } from "node:http";
import sharp from "sharp";
import { type RenderView } from "@hardline/contract";
import { addTicket, ask, credentials, newDatabase, startSignedIn } from "../harness";
import { LEFT_OUT, moreBodies } from "./fuzzBodies";
import { chance, printTable, quantile, sleep } from "./table";

/** What the interface says of itself, as far as it is asked here. */
interface Description {
  readonly paths: Record<string, Record<string, Operation>>;
  readonly components: { readonly schemas: Record<string, Schema> };
}
interface Operation {
  readonly parameters?: readonly { readonly name: string; readonly in: string }[];
  readonly requestBody?: { readonly content: Record<string, { readonly schema: Schema }> };
}
interface Schema {
  readonly $ref?: string;
  readonly type?: string;
  readonly properties?: Record<string, Schema>;
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
}

interface Answer {
  readonly status: number;
  readonly body: string;
  readonly ms: number;
}

export interface Fuzzed {
  readonly asked: number;
  readonly faults: readonly string[];
}

/** Addresses that take a file as it is. */
const TAKES_FILES = new Set(["/api/artworks", "/api/fonts"]);

const ODD_TEXTS = [
  ...["", " ", "0", "-1", "null", "true", "[]", "{}", "../..", "%00", "a".repeat(5000), "\u0000", "\ud800"],
  ...[
    "\u202e\u0301\u{1f600}",
    "'; drop table tickets; --",
    "<script>",
    "1e999",
    "NaN",
    "__proto__",
    "01",
    "+5",
  ],
];
const ODD_VALUES: readonly unknown[] = [
  ...[
    null,
    true,
    false,
    0,
    -0,
    -1,
    1.5,
    1e308,
    -1e308,
    2 ** 31,
    2 ** 53,
    9e18,
    0.1 + 0.2,
    [],
    {},
    [[]],
    [null],
  ],
  ...[[{}], { a: { b: { c: {} } } }, { __proto__: null, constructor: 1 }, [1, [2, [3, [4]]]], ...ODD_TEXTS],
];
const ODD_IDS = [
  "0",
  "1",
  "2",
  "3",
  "999999",
  "9".repeat(18),
  "9".repeat(25),
  "-1",
  "1.5",
  "abc",
  "%00",
  "..%2f",
  "１",
  "slate",
  "bed-laser",
  "%E0%A4%A",
  "__proto__",
];

/**
 * Asks every operation that the interface describes, with addresses, queries, headers and bodies of whatever kind: from
 * what would be right, changed in one place or several, and from what the description says, filled with nonsense. Nothing
 * may be answered with a fault of the program, and after a write that was refused everything reads as it did before.
 */
export async function fuzz(count: number, seed: number): Promise<Fuzzed> {
  console.log(`\nfuzz: ${count} requests, seed ${seed}`);
  const database = await newDatabase();
  const start = (role: string) =>
    startSignedIn(database, [`--role=${role}`], { LOG_LEVEL: process.env.FUZZ_LOG ?? "fatal" });
  // A worker makes what there is to begin with; while requests are counted nothing changes by itself.
  const first = await start("both");
  const fuzzer = new Fuzzer(chance(seed));
  await fuzzer.prepare(first.url);
  await first.stop();
  const program = await start("server");
  let ended = 0;
  program.process.once("exit", () => ended++);
  try {
    await fuzzer.describe(program.url);
    for (let k = 0; k < count && ended === 0; k++) await fuzzer.one();
    if (ended) fuzzer.faults.push("the program ended");
    fuzzer.print();
    return { asked: fuzzer.asked, faults: fuzzer.faults };
  } finally {
    await program.stop();
  }
}

class Fuzzer {
  readonly faults: string[] = [];
  asked = 0;
  private readonly written: { method: string; path: string; of: Operation }[] = [];
  private readonly operations: { method: string; path: string; of: Operation }[] = [];
  private description!: Description;
  private readonly took: number[] = [];
  private readonly slowest: [ms: number, what: string][] = [];
  private readonly statuses = new Map<string, number>();
  /** What is read, by its address, as it was when something was last accepted. */
  private readonly reads = new Map<string, string>();
  private compared = 0;
  private base: Record<string, unknown> = {};

  private url = "";

  constructor(private readonly next: () => number) {}

  async prepare(url: string): Promise<void> {
    const png = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#789" } })
      .png()
      .toBuffer();
    const stages = [{ stage: "size", widthMm: 20, dotsPerInch: 254 }, { stage: "blackWhite" }];
    const { ticket, route } = await addTicket(url, png, "a.png", stages);
    const house = await ask<{ id: string }>(`${url}/api/house-routes`, "POST", {
      name: "House",
      route: route.route,
    });
    const body = { stock: { widthMm: 200, heightMm: 150 }, pieces: [{ routeId: route.id, count: 3 }] };
    const sheet = await ask<{ id: string }>(`${url}/api/sheets`, "POST", { name: "Sheet", body });
    const items = [{ name: "x", text: "Ann" }];
    await ask(`${url}/api/batches`, "POST", { name: "Batch", houseRouteId: house.id, items });
    await ask(`${url}/api/materials/slate/curves`, "POST", {
      readings: [
        [10, 20],
        [30, 45],
        [50, 66],
        [80, 92],
      ],
    });
    await ask(`${url}/api/tickets/${ticket.id}/strips`, "POST", {
      ...{ routeId: route.id, revision: 2, title: "t", labels: ["a"], picture: png.toString("base64") },
    });
    await ask(`${url}/api/runs`, "POST", { machine: "bed-laser", wish: {}, routeId: route.id });
    const placing = { piece: 0, sheet: 0, xMm: 50, yMm: 50, turnDegrees: 0, mirrored: false };
    const [{ key: _, ...material }] = USUAL_MATERIALS;
    this.base = {
      "POST /api/tickets": {
        artworkId: ticket.artwork.id,
        piece: "P",
        pieces: 2,
        output: "laser",
        due: "2026-12-01",
      },
      "PATCH /api/tickets/{id}": { piece: "Q", note: "n", material: "oak", materialColour: "#aabbcc" },
      "PUT /api/routes/{id}": { version: 2, route: route.route },
      "POST /api/tickets/{id}/routes": { route: wedgeRoute(USUAL_MATERIALS[0]) },
      "PUT /api/routes/{id}/findings": { revision: 2, looks: 1, stops: 0, thumbnail: "iVBORw0=" },
      "POST /api/routes/{id}/undo": { version: 2 },
      "POST /api/routes/{id}/redo": { version: 2 },
      "POST /api/house-routes": { name: "Other", route: route.route },
      "POST /api/materials": { ...material, name: "Birch" },
      "PUT /api/materials/{key}": { ...material, version: 2 },
      "POST /api/materials/{key}/curves": {
        readings: [
          [10, 20],
          [30, 45],
          [50, 66],
          [80, 92],
        ],
      },
      "POST /api/sheets": { name: "S", body },
      "PUT /api/sheets/{id}": {
        ...{ name: "S", body, version: 1, revisions: { [route.id]: 2 } },
        placings: [placing, { ...placing, xMm: 90 }, { ...placing, kept: true, xMm: 140 }],
      },
      "POST /api/batches": {
        name: "B",
        houseRouteId: house.id,
        items: [...items, { name: "y", artworkId: "1" }],
      },
      "PUT /api/machines": {
        machine: USUAL_MACHINES[0],
        version: 1,
        host: "127.0.0.1",
        port: 4999,
        floor: 5000,
      },
      "POST /api/runs": { machine: "bed-laser", wish: { power: 30 }, routeId: route.id, sheet: 1 },
      "POST /api/runs/{id}/place": { before: "1" },
      "POST /api/tickets/{id}/strips": {
        ...{ routeId: route.id, revision: 2, title: "t", labels: ["a"], picture: png.toString("base64") },
      },
      ...moreBodies({ routeId: route.id, ticketId: ticket.id, artworkId: ticket.artwork.id }),
    };
    for (const path of [
      "tickets",
      "house-routes",
      "materials",
      "sheets",
      "machines",
      "materials/slate/curves",
      "batches",
    ])
      this.reads.set(`/api/${path}`, "");
    for (const path of [
      `tickets/${ticket.id}`,
      `routes/${route.id}`,
      `sheets/${sheet.id}`,
      `tickets/${ticket.id}/strips`,
    ])
      this.reads.set(`/api/${path}`, "");
    const works = ["routes/1/piece?bleedMm=0", "routes/1/renders"];
    for (const path of works) {
      let work = await ask<RenderView>(`${url}/api/${path}`, "POST");
      while (work.state === "waiting" || work.state === "running") {
        await sleep(100);
        work = await ask<RenderView>(`${url}/api/renders/${work.id}`);
      }
    }
    while ((await ask<{ state: string }>(`${url}/api/runs/1`)).state === "preparing") await sleep(100);
  }

  async describe(url: string): Promise<void> {
    this.url = url;
    this.description = await ask<Description>(`${url}/api/openapi.json`);
    for (const [path, methods] of Object.entries(this.description.paths))
      for (const [method, of] of Object.entries(methods))
        if (!LEFT_OUT.has(`${method.toUpperCase()} ${path}`))
          this.operations.push({ method: method.toUpperCase(), path, of });
    const known = new Set(this.operations.map((o) => `${o.method} ${o.path}`));
    for (const name of Object.keys(this.base))
      if (!known.has(name)) throw new Error(`${name} is not described; the trial knows it by another name`);
    const without = this.operations
      .filter(({ path, of }) => of.requestBody && !TAKES_FILES.has(path))
      .map(({ method, path }) => `${method} ${path}`)
      .filter((name) => !(name in this.base));
    if (without.length > 0)
      throw new Error(`the trial has no body that would be right for ${without.join(", ")}`);
    this.written.push(...this.operations.filter((o) => `${o.method} ${o.path}` in this.base));
  }

  async one(): Promise<void> {
    const writes = this.next() < 0.6;
    const { method, path, of } = this.pick(writes ? this.written : this.operations);
    const seen = method === "GET" ? [] : await this.two();
    const address = path.replace(/\{(\w+)\}/g, (_all, name: string) =>
      method === "DELETE" ? this.idToRemove(name) : this.idFor(name, writes),
    );
    const version = method === "GET" || this.next() < 0.3 ? undefined : await this.versionOf(path, address);
    const answer = await this.call(
      method,
      address + this.query(of),
      ...this.bodyFor(method, path, of, version),
    );
    this.asked++;
    this.took.push(answer.ms);
    if (answer.ms > 300) this.slowest.push([answer.ms, `${method} ${address} ${answer.status}`]);
    const group = `${method} ${Math.floor(answer.status / 100)}xx`;
    this.statuses.set(group, (this.statuses.get(group) ?? 0) + 1);
    if (answer.status >= 500 || answer.status === 0) {
      this.fault(`${method} ${address}: ${answer.status} ${answer.body.slice(0, 300)}`);
      this.forget();
    } else if (method !== "GET" && answer.status < 400) this.forget();
    else await this.compare(`${method} ${address}`, seen);
  }

  /** Two of the things that are read, as they are now: which, changes from one request to the next. */
  private async two(): Promise<readonly string[]> {
    const paths = [...this.reads.keys()];
    const chosen = [this.pick(paths), this.pick(paths)];
    for (const path of chosen) if (this.reads.get(path) === "") this.reads.set(path, await this.read(path));
    return chosen;
  }

  private async read(path: string): Promise<string> {
    const { status, body } = await this.call("GET", path, {}, undefined);
    if (status >= 500 || status === 0)
      this.fault(`${path} cannot be read any more: ${status} ${body.slice(0, 300)}`);
    return withoutClock(body);
  }

  /** After what was refused, everything reads as before. */
  private async compare(what: string, paths: readonly string[]): Promise<void> {
    for (const path of paths) {
      const now = await this.read(path);
      this.compared++;
      if (now === this.reads.get(path)) continue;
      this.fault(`${what} was refused, and changed ${path}`);
      this.reads.set(path, now);
    }
  }

  /** What was accepted may have changed anything. */
  private forget(): void {
    for (const path of this.reads.keys()) this.reads.set(path, "");
  }

  /** The version that stands, of what has one: otherwise all but the first change would be refused for being late. */
  private async versionOf(path: string, address: string): Promise<number | undefined> {
    const read = /^\/api\/(routes|sheets)\/\{id\}/.exec(path)
      ? address.split("/").slice(0, 4).join("/")
      : path.startsWith("/api/materials") || path === "/api/machines"
        ? path.split("/").slice(0, 3).join("/")
        : null;
    if (!read) return undefined;
    const { status, body } = await this.call("GET", read, {}, undefined);
    if (status !== 200) return undefined;
    const found = JSON.parse(body) as
      { version: number } | { version: number; key?: string; machine?: { key: string } }[];
    if (!Array.isArray(found)) return found.version;
    const key = address.split("/")[3];
    const own = found.find((f) => (f.key ?? f.machine?.key) === (key ?? "bed-laser"));
    return own?.version;
  }

  private bodyFor(
    method: string,
    path: string,
    of: Operation,
    version?: number,
  ): [Record<string, string>, Buffer | string | undefined] {
    if (method === "GET" || method === "DELETE") return [this.headers({}), undefined];
    if (TAKES_FILES.has(path)) {
      const bytes = Buffer.from(
        Array.from({ length: Math.floor(this.next() * 300) }, () => this.next() * 256),
      );
      return [this.headers({ "Content-Type": "application/octet-stream" }), bytes];
    }
    const json = { "Content-Type": "application/json" };
    const base = this.base[`${method} ${path}`];
    const roll = this.next();
    if (roll < 0.02) return [json, "{oops"];
    if (roll < 0.05) return [json, JSON.stringify(structuredClone(this.pick(ODD_VALUES)))];
    if (roll < 0.06) return [json, `${'{"a":'.repeat(300)}1${"}".repeat(300)}`];
    if (roll < 0.07) return [json, `{"__proto__":{"x":1},"items":[${"{},".repeat(20000)}{}]}`];
    if (roll < 0.08) return [this.headers(json), undefined];
    if (roll < 0.2 && of.requestBody)
      return [
        this.headers(json),
        JSON.stringify(this.fromSchema(Object.values(of.requestBody.content)[0].schema, 0)),
      ];
    if (base === undefined)
      return [this.headers(json), roll < 0.6 ? "{}" : JSON.stringify(structuredClone(this.pick(ODD_VALUES)))];
    const changed = structuredClone(base) as Record<string, unknown>;
    if (version !== undefined) changed.version = version;
    const times = Math.floor(this.next() * 2.6);
    for (let k = 0; k < times; k++) this.change(changed);
    return [this.headers(json), JSON.stringify(changed)];
  }

  /** Something somewhere in a body is made something else, left out, or joined by what nobody asked for. */
  private change(value: Record<string, unknown> | unknown[]): void {
    const keys = Object.keys(value);
    if (keys.length === 0 || this.next() < 0.08) {
      if (Array.isArray(value)) value.push(structuredClone(this.pick(ODD_VALUES)));
      else
        value[this.pick(["extra", "__proto__", "constructor", "id", "toString", ""])] = structuredClone(
          this.pick(ODD_VALUES),
        );
      return;
    }
    const key = this.pick(keys);
    const of = value as Record<string, unknown>;
    const inner = of[key];
    if (typeof inner === "object" && inner !== null && this.next() < 0.75)
      return this.change(inner as Record<string, unknown>);
    if (this.next() < 0.1) delete of[key];
    else if (typeof inner === "number" && this.next() < 0.6)
      of[key] = this.pick([
        0,
        -inner,
        inner * 1e6,
        inner + 0.5,
        -1,
        1e-12,
        2 ** 31 - 1,
        inner + 1,
        String(inner),
      ]);
    else
      of[key] = structuredClone(
        this.pick(this.next() < 0.4 ? [null, 0, false, "", [], {}, [null], 5] : ODD_VALUES),
      );
  }

  private fromSchema(schema: Schema, depth: number): unknown {
    if (this.next() < 0.12 || depth > 5) return structuredClone(this.pick(ODD_VALUES));
    if (schema.$ref) {
      const named = this.description.components.schemas[schema.$ref.split("/").pop()!];
      return named ? this.fromSchema(named, depth) : {};
    }
    if (schema.enum) return this.pick([...schema.enum, "other"]);
    switch (schema.type) {
      case "object": {
        const entries = Object.entries(schema.properties ?? {}).filter(() => this.next() < 0.9);
        return Object.fromEntries(entries.map(([name, inner]) => [name, this.fromSchema(inner, depth + 1)]));
      }
      case "array":
        return Array.from({ length: Math.floor(this.next() * 4) }, () =>
          this.fromSchema(schema.items ?? {}, depth + 1),
        );
      case "string":
        return this.pick(["1", "2", "name", "slate", "#aabbcc", "2026-12-01", ...ODD_TEXTS]);
      case "integer":
      case "number":
        return this.pick([0, 1, 2, 3, 50, 254, -1, 0.5, 1e9, 2 ** 31 - 1]);
      case "boolean":
        return this.next() < 0.5;
      default:
        return structuredClone(this.pick(ODD_VALUES));
    }
  }

  /** What everything else is tried on stays. */
  private idToRemove(name: string): string {
    return this.pick(name === "key" ? ["birch", "loom", "%00"] : ["5", "6", "7", "8", "999999", "-1", "abc"]);
  }

  private idFor(name: string, likely: boolean): string {
    if (likely && this.next() < 0.93) return name === "key" ? "slate" : "1";
    if (name === "key") return this.pick(["slate", "bed-laser", "birch", "pale-wood", ...ODD_IDS]);
    if (name === "name") return this.pick(["x.png", "..", "%00", "readings.json"]);
    return this.next() < 0.7 ? this.pick(["1", "2", "3"]) : this.pick(ODD_IDS);
  }

  private query({ parameters = [] }: Operation): string {
    const own = parameters.filter((p) => p.in === "query").map((p) => p.name);
    if (this.next() < 0.3) own.push(this.pick(["x", "id", "__proto__", "bleedMm", "width", "pass", "name"]));
    const parts = own
      .filter(() => this.next() < 0.7)
      .map((name) => {
        const value = this.pick([...ODD_TEXTS, "1", "0", "2", "100", "Infinity", "-5", "bitmap"]);
        const written = /[\ud800-\udfff]/.test(value)
          ? "%ED%A0%80"
          : encodeURIComponent(value).slice(0, 2000);
        return `${encodeURIComponent(name)}${this.pick(["", "", "[]", "[a]"])}=${written}`;
      });
    return parts.length > 0 ? `?${parts.join("&")}` : "";
  }

  private headers(own: Record<string, string>): Record<string, string> {
    if (this.next() > 0.06) return own;
    const [name, value] = this.pick([
      ["Origin", "http://evil.example"],
      ["Origin", "null"],
      ["Content-Type", "text/plain"],
      ["Content-Type", "application/json; charset=klingon"],
      ["Accept", "x/y"],
      ["X-Forwarded-Host", "evil.example"],
      ["If-Match", '"x"'],
      ["Range", "bytes=5-1"],
      ["Cookie", "a=%00"],
      ["Content-Encoding", "gzip"],
      ["Transfer-Encoding", "chunked"],
    ] as const);
    return { ...own, [name]: value };
  }

  private call(
    method: string,
    path: string,
    headers: Record<string, string>,
    body: Buffer | string | undefined,
  ): Promise<Answer> {
    const { hostname, port } = new URL(this.url);
    const began = performance.now();
    return new Promise((done) => {
      const end = (status: number, text = "") => done({ status, body: text, ms: performance.now() - began });
      try {
        const sent = request(
          { hostname, port, path, method, headers: { ...credentials(this.url), ...headers }, timeout: 30000 },
          (r) => {
            if (r.headers["content-type"]?.startsWith("text/event-stream")) {
              sent.destroy();
              return end(r.statusCode ?? 0);
            }
            const parts: Buffer[] = [];
            r.on("data", (part: Buffer) => parts.push(part));
            r.on("end", () => end(r.statusCode ?? 0, Buffer.concat(parts).toString("utf8")));
            r.on("error", () => end(0, "broken off"));
          },
        );
        sent.on("timeout", () => sent.destroy(new Error("no answer within 30 s")));
        sent.on("error", (error) => end(0, error.message));
        sent.end(body);
      } catch (error) {
        end(400, (error as Error).message); // it cannot even be said
      }
    });
  }

  private fault(what: string): void {
    this.faults.push(what);
    if (this.faults.length <= 20) console.log(`fault: ${what}`);
  }

  private pick<T>(of: readonly T[]): T {
    return of[Math.floor(this.next() * of.length)];
  }

  print(): void {
    printTable(
      "Fuzz of the described interface",
      ["what", "n"],
      [
        ["operations", this.operations.length],
        ["requests", this.asked],
        ...[...this.statuses].sort().map(([group, n]) => [group, n] as const),
        ["resources compared after a refused write", this.compared],
        ["faults", this.faults.length],
        ["median ms", quantile(this.took, 0.5).toFixed(1)],
        ["99 % within ms", quantile(this.took, 0.99).toFixed(0)],
        ["longest ms", Math.max(...this.took).toFixed(0)],
        ...this.slowest
          .sort(([a], [b]) => b - a)
          .slice(0, 5)
          .map(([ms, what]) => [what, ms.toFixed(0)] as const),
      ],
    );
  }
}

/** What changes by itself is left out: how far runs are at their machines. */
function withoutClock(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body, (key, value: unknown) => (key === "queue" ? [] : value)));
  } catch {
    return body;
  }
}
