import { execFileSync } from "node:child_process";
import { request } from "node:http";
import { addTicket, ask, credentials, newDatabase, startSignedIn, type Program } from "../harness";
import { fuzz } from "./fuzz";
import { besides } from "./beside";
import { hostileFiles } from "./hostileFiles";
import { printTable, quantile, sleep } from "./table";

// Usage: npm run hostile [-- files requests streams beside fuzz]   (SEED, REQUESTS: of the fuzz)
/*
 * What the program does with what nobody should send it: damaged and malicious files, requests with odd hosts, origins,
 * ids and bodies, streams opened and left. Printed: answers by class, the longest, memory; it fails when the program
 * ends, or answers with a fault of its own.
 */
interface Seen {
  readonly group: string;
  readonly status: number;
  readonly ms: number;
  readonly what: string;
}

const seen: Seen[] = [];
let program: Program;

/** Peak memory of the program and the processes it has, in MB, by name. */
class Memory {
  private readonly most = new Map<string, number>();
  private readonly timer = setInterval(() => this.look(), 50);

  private look(): void {
    const listed = execFileSync("ps", ["-eo", "pid,ppid,rss,args"], { encoding: "utf8" }).split("\n");
    const rows = listed
      .map((l) => l.trim().split(/\s+/))
      .map(([pid, ppid, rss, ...args]) => ({ pid, ppid, rss: +rss / 1024, args: args.join(" ") }));
    for (const { pid, ppid, rss, args } of rows) {
      const own = pid === String(program.process.pid);
      if (!own && ppid !== String(program.process.pid)) continue;
      const name = own ? "server" : args.includes("decoder") ? "decoder" : "worker";
      this.most.set(name, Math.max(this.most.get(name) ?? 0, rss));
    }
  }
  end(): ReadonlyMap<string, number> {
    clearInterval(this.timer);
    return this.most;
  }
}

function call(
  group: string,
  what: string,
  path: string,
  method: string,
  headers: Record<string, string>,
  body?: Buffer | string,
): Promise<number> {
  const { hostname, port } = new URL(program.url);
  const began = performance.now();
  return new Promise((done) => {
    const end = (status: number) => {
      seen.push({ group, what, status, ms: performance.now() - began });
      done(status);
    };
    const sent = request(
      {
        hostname,
        port,
        path,
        method,
        headers: { Host: `127.0.0.1:${port}`, ...credentials(program.url), ...headers },
      },
      (r) => {
        r.resume();
        r.on("end", () => end(r.statusCode ?? 0));
        r.on("error", () => end(0));
      },
    );
    sent.on("error", () => end(0));
    sent.end(body);
  });
}

async function files(): Promise<void> {
  const all = await hostileFiles();
  const left = [...all];
  const line = async () => {
    for (let file = left.shift(); file; file = left.shift()) {
      const { kind, name, bytes } = file;
      await call(
        `files: ${kind}`,
        name,
        `/api/artworks?name=${encodeURIComponent(name)}`,
        "POST",
        { "Content-Type": "application/octet-stream", "Content-Length": String(bytes.length) },
        bytes,
      );
    }
  };
  await Promise.all([1, 2, 3, 4, 5].map(line));
  console.log(`${all.length} files`);
}

async function requests(): Promise<void> {
  const json = { "Content-Type": "application/json" };
  for (const host of [
    "rebound.example",
    "localhost.evil.example",
    "127.0.0.1.evil.example",
    "[::1",
    "a b",
    "xn--a",
    "127.0.0.1@evil.example",
    "0x7f000001.evil",
    "*",
    "evil.example:4280",
  ])
    await call("hosts", host, "/api/tickets", "GET", { Host: host });
  for (const origin of [
    "null",
    "http://evil.example",
    "https://evil.example",
    "http://127.0.0.1",
    "http://localhost:1",
    "file://",
    "chrome-extension://x",
    "HTTP://127.0.0.1:1",
    "http://[::1]",
    " ",
  ])
    await call("origins", origin, "/api/tickets", "POST", { Origin: origin, ...json }, "{}");
  const ids = [
    "0",
    "-1",
    "1.5",
    "1e3",
    "9".repeat(18),
    "9".repeat(19),
    "9".repeat(30),
    "abc",
    "%00",
    "..%2f..",
    "1;drop table tickets",
    "１",
    " 1",
    "0x1",
    "%E0%A4%A",
    "NaN",
    "null",
    "1/../2",
  ];
  for (const id of ids)
    for (const path of [
      "tickets/ID",
      "artworks/ID/original",
      "artworks/ID/pixels?width=5",
      "artworks/ID/thumbnail",
      "routes/ID",
      "routes/ID/thumbnail",
      "renders/ID",
      "renders/ID/zip",
      "renders/ID/files/x",
    ])
      await call(
        "ids",
        `${path} ${id}`,
        `/api/${path.replace("ID", id.includes("%") ? id : encodeURIComponent(id))}`,
        "GET",
        {},
      );
  for (const width of ["0", "-1", "1e9", "NaN", "65536", "5.5", "", "x"])
    await call("ids", `width ${width}`, `/api/artworks/1/pixels?width=${width}`, "GET", {});
  const deep = (n: number) => `${'{"a":'.repeat(n)}1${"}".repeat(n)}`;
  const bodies: [string, string][] = [
    ["nothing", ""],
    ["null", "null"],
    ["a number", "5"],
    ["a text", '"x"'],
    ["a list", "[]"],
    ["broken", "{oops"],
    ["deep 1e4", deep(1e4)],
    ["deep 1e6", deep(1e6)],
    ["7 MB", JSON.stringify({ note: "x".repeat(7 << 20) })],
    ["9 MB", JSON.stringify({ note: "x".repeat(9 << 20) })],
    ["zero letter", '{"piece":"a\\u0000"}'],
    ["half a pair", '{"piece":"\\ud800"}'],
    ["key of half a pair", '{"\\udfff":1}'],
    ["prototype", '{"__proto__":{"x":1},"constructor":{"prototype":{}}}'],
    ["null fields", '{"piece":null,"pieces":null,"note":null}'],
    ["wrong types", '{"piece":5,"pieces":"x","due":{}}'],
    ["huge numbers", '{"pieces":1e308,"artworkId":"99999999999999999999"}'],
    ["a million keys", `{${Array.from({ length: 200000 }, (_, k) => `"k${k}":1`).join(",")}}`],
    ["NaN", '{"version":NaN}'],
    ["version 2^31", '{"version":2147483648}'],
    ["a route of nothing", '{"version":1,"route":{}}'],
    [
      "a route of lists",
      '{"version":1,"route":{"format":"hard-line-route","version":1,"name":"a","stages":[[],[],5,null]}}',
    ],
    [
      "a route with 1e5 stages",
      `{"version":1,"route":{"format":"hard-line-route","version":1,"name":"a","stages":[${'{"stage":"tone"},'.repeat(1e5)}{"stage":"tone"}]}}`,
    ],
  ];
  const targets: [string, string][] = [
    ["POST", "tickets"],
    ["PATCH", "tickets/1"],
    ["PUT", "routes/1"],
    ["POST", "tickets/1/routes"],
    ["PUT", "routes/1/findings"],
    ["POST", "routes/1/undo"],
  ];
  for (const [what, body] of bodies)
    for (const [method, path] of targets)
      await call("bodies", `${method} ${path} ${what}`, `/api/${path}`, method, json, body);
  for (const type of [
    "text/plain",
    "application/x-www-form-urlencoded",
    "multipart/form-data; boundary=x",
    "application/json; charset=klingon",
    "application/json;charset=utf-16",
    "text/html",
    "APPLICATION/JSON",
  ])
    await call("media types", type, "/api/tickets", "POST", { "Content-Type": type }, "{}");
  for (const path of [
    "/assets/none.js",
    "/assets/%",
    "/assets/..%2f..%2fetc%2fpasswd",
    "/../../etc/passwd",
    "/%2e%2e/%2e%2e/etc/passwd",
    "/api/none",
    "/none/of/this",
    "/api/docs/..%2f..",
    "//evil.example",
    "/\\evil",
  ])
    await call("addresses", path, path, "GET", {});
}

/** Opens streams and leaves them, then looks whether the program still answers. */
async function streams(): Promise<void> {
  const { hostname, port } = new URL(program.url);
  const png = await (
    await import("sharp")
  )
    .default({ create: { width: 20, height: 20, channels: 3, background: "#fff" } })
    .png()
    .toBuffer();
  const { route } = await addTicket(program.url, png, "a.png", [{ stage: "tone" }]);
  const { id } = await ask<{ id: string }>(`${program.url}/api/routes/${route.id}/renders`, "POST");
  const open = Array.from({ length: 500 }, () => {
    const sent = request(
      { hostname, port, path: `/api/renders/${id}/events`, headers: credentials(program.url) },
      (r) => r.on("data", () => undefined),
    );
    sent.on("error", () => undefined);
    sent.end();
    return sent;
  });
  await sleep(1500);
  for (let k = 0; k < 20; k++) await call("beside 500 streams", "health", "/api/health", "GET", {});
  for (const sent of open) sent.destroy();
  await sleep(300);
  for (let k = 0; k < 20; k++) await call("after 500 streams", "health", "/api/health", "GET", {});
}

async function main(): Promise<void> {
  program = await startSignedIn(await newDatabase(), [], { LOG_LEVEL: "fatal", HARDLINE_DRAW_SECONDS: "8" });
  const memory = new Memory();
  let crashes = 0;
  program.process.once("exit", () => crashes++);
  const fuzzFaults: string[] = [];
  const fuzzed = async (): Promise<void> => {
    const seed = Number(process.env.SEED ?? 20261128);
    fuzzFaults.push(...(await fuzz(Number(process.env.REQUESTS ?? 20000), seed)).faults);
  };
  let heldUp = 0;
  const beside = async (): Promise<void> => void (heldUp += await besides());
  const parts: Record<string, () => Promise<void>> = { files, requests, streams, beside, fuzz: fuzzed };
  const wanted = process.argv.slice(2);
  for (const [name, run] of Object.entries(parts))
    if (wanted.length === 0 || wanted.includes(name)) await run();
  const alive = await call("at the end", "health", "/api/health", "GET", {});
  const most = memory.end();
  const groups = [...new Set(seen.map((s) => s.group))];
  const row = (group: string) => {
    const own = seen.filter((s) => s.group === group);
    const of = (low: number) => own.filter((s) => s.status >= low && s.status < low + 100).length;
    return [
      group,
      own.length,
      of(200),
      of(300),
      of(400),
      of(500),
      own.filter((s) => s.status === 0).length,
      quantile(
        own.map((s) => s.ms),
        0.5,
      ).toFixed(0),
      Math.max(...own.map((s) => s.ms)).toFixed(0),
    ];
  };
  printTable(
    "Answers",
    ["what", "n", "2xx", "3xx", "4xx", "5xx", "none", "median ms", "longest ms"],
    groups.map(row),
  );
  printTable(
    "Most memory",
    ["process", "MB"],
    [...most].map(([name, mb]) => [name, mb.toFixed(0)]),
  );
  const faults = seen.filter((s) => s.status >= 500 || s.status === 0);
  const slow = [...seen].sort((a, b) => b.ms - a.ms).slice(0, 5);
  printTable(
    "Slowest",
    ["what", "status", "ms"],
    slow.map(({ group, what, status, ms }) => [`${group}, ${what}`, status, ms.toFixed(0)]),
  );
  for (const { group, what, status } of faults.slice(0, 30))
    console.log(`fault: ${group}, ${what}: ${status}`);
  console.log(
    `\n${crashes} crashes, ${faults.length} answers of 5xx or none, ${fuzzFaults.length} faults of the fuzz, others held up by ${heldUp} loads`,
  );
  const began = performance.now();
  await program.stop();
  console.log(`SIGTERM: ended after ${(performance.now() - began).toFixed(0)} ms`);
  process.exit(crashes || faults.length || fuzzFaults.length || heldUp || alive !== 200 ? 1 : 0);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
