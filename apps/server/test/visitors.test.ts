import { type TicketsView } from "@hardline/contract";
import { request } from "node:http";
import { ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"], {
    HARDLINE_HOSTS: "bench.skerry.example",
  });
});
afterAll(() => program?.stop());

/** A request whose Host and other headers are one's own, as fetch would not let them be. */
function call(path: string, method: string, headers: Record<string, string>, body = "") {
  const { hostname, port } = new URL(program.url);
  return new Promise<{ status: number; headers: Record<string, unknown>; body: string }>((done, failed) => {
    const sent = request(
      { hostname, port, path, method, headers: { Host: `127.0.0.1:${port}`, ...headers } },
      (r) => {
        let text = "";
        r.on("data", (chunk: Buffer) => (text += chunk.toString()));
        r.on("end", () => done({ status: r.statusCode!, headers: r.headers, body: text }));
      },
    );
    sent.on("error", failed);
    sent.end(body);
  });
}
const json = { "Content-Type": "application/json" };

test.each([
  ["rebound.example", 421],
  ["rebound.example:4280", 421],
  ["localhost.rebound.example", 421],
  ["127.0.0.1.rebound.example", 421],
  ["localhost", 200],
  ["LOCALHOST:1", 200],
  ["192.168.7.20:4280", 200],
  ["[::1]:4280", 200],
  ["bench.skerry.example", 200],
])("called %j: %d", async (Host, status) => {
  for (const path of ["/api/health", "/"]) {
    const answer = await call(path, "GET", { Host });
    expect(answer.status).toBe(status);
    if (status === 421) expect(answer.body).toContain("HARDLINE_HOSTS");
  }
});

describe("writes", () => {
  const own = () => new URL(program.url).origin;
  test.each<[string, Record<string, string>, number]>([
    ["from another site", { Origin: "http://elsewhere.example", ...json }, 403],
    ["from another port of the same machine", { Origin: "http://127.0.0.1:1", ...json }, 403],
    ["from a page without an origin", { Origin: "null", ...json }, 403],
    ["said by the browser to come across sites", { "Sec-Fetch-Site": "cross-site", ...json }, 403],
    ["as a form sends them", { "Content-Type": "text/plain" }, 415],
    ["as an encoded form", { "Content-Type": "application/x-www-form-urlencoded" }, 415],
    ["in an odd charset", { "Content-Type": "application/json; charset=klingon" }, 415],
    ["of a program", json, 400],
  ])("%s", async (_what, headers, status) => {
    const answer = await call("/api/tickets", "POST", headers, "{}");
    expect(answer.status).toBe(status);
    expect(answer.headers["content-type"]).toContain("application/problem+json");
  });

  test("without a body from elsewhere change nothing", async () => {
    for (const path of ["/api/tickets/1/archive", "/api/routes/1/renders"])
      expect(
        (await call(path, "POST", { Origin: "http://elsewhere.example", "Content-Length": "0" })).status,
      ).toBe(403);
  });

  test("of the product's own pages are taken", async () => {
    expect(
      (await call("/api/tickets", "POST", { Origin: own(), "Sec-Fetch-Site": "same-origin", ...json }, "{}"))
        .status,
    ).toBe(400);
    expect(await ask<TicketsView>(`${program.url}/api/tickets`)).toEqual({ tickets: [], next: null });
  });
});

test("pages stand in nobody's frame and run nothing of others", async () => {
  const { headers } = await call("/", "GET", {});
  const policy = String(headers["content-security-policy"]);
  for (const part of [
    "default-src 'none'",
    "script-src 'self' 'wasm-unsafe-eval'",
    "frame-ancestors 'none'",
    "base-uri 'none'",
  ])
    expect(policy).toContain(part);
  expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(headers).toMatchObject({
    "x-content-type-options": "nosniff",
    "x-frame-options": "DENY",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-embedder-policy": "require-corp",
  });
  expect(headers["x-powered-by"]).toBeUndefined();
});

test.each<[string, string, string, string, number]>([
  ["an empty change", "/api/tickets/1", "PATCH", "{}", 404],
  ["null where there is none", "/api/tickets/1", "PATCH", '{"piece":null}', 400],
  ["a zero letter", "/api/tickets/1", "PATCH", '{"note":"a\\u0000b"}', 400],
  ["half a pair of surrogates", "/api/tickets/1", "PATCH", '{"note":"a\\ud800b"}', 400],
  ["an id of 30 digits", `/api/tickets/${"9".repeat(30)}`, "GET", "", 400],
  ["an artwork of 20 digits", "/api/tickets", "POST", `{"artworkId":"${"9".repeat(20)}"}`, 400],
  [
    "a revision beyond what is kept",
    "/api/routes/1/findings",
    "PUT",
    '{"revision":2147483648,"looks":0,"stops":0}',
    400,
  ],
  ["a version beyond what is kept", "/api/routes/1/undo", "POST", '{"version":2147483648}', 400],
  ["a field that every object has", "/api/tickets", "POST", '{"constructor":null}', 400],
  ["another such", "/api/session", "POST", '{"name":"a","password":"b","toString":{}}', 400],
  ["its class", "/api/tickets", "POST", '{"__proto__":{"artworkId":"1"}}', 400],
  ["no JSON at all", "/api/tickets", "POST", "{oops", 400],
  ["JSON nested ten thousand deep", "/api/tickets", "POST", `${"[".repeat(10000)}${"]".repeat(10000)}`, 413],
  ["JSON nested a hundred deep", "/api/tickets", "POST", `${"[".repeat(100)}${"]".repeat(100)}`, 400],
  [
    "two hundred thousand fields",
    "/api/tickets",
    "POST",
    `{${Array.from({ length: 200000 }, (_, k) => `"k${k}":1`).join(",")}}`,
    413,
  ],
  [
    "three hundred fields",
    "/api/tickets",
    "POST",
    `{${Array.from({ length: 300 }, (_, k) => `"k${k}":1`).join(",")}}`,
    400,
  ],
  ["a body of 9 MB", "/api/tickets", "POST", `{"note":"${"x".repeat(9 << 20)}"}`, 413],
  ["an asset that is not there", "/assets/none.js", "GET", "", 404],
  ["an address that is none", "/assets/%", "GET", "", 400],
  ["another such", "/api/tickets/%E0%A4%A", "GET", "", 400],
])("%s: refused as it should be, %s", async (_what, path, method, body, status) => {
  const answer = await call(path, method, body ? json : {}, body);
  expect([answer.status, JSON.parse(answer.body).status]).toEqual([status, status]);
});

test("a client that leaves in the middle is no fault, and the next is served", async () => {
  const { hostname, port } = new URL(program.url);
  await new Promise<void>((gone) => {
    const sent = request({
      hostname,
      port,
      path: "/api/artworks",
      method: "POST",
      headers: { "Content-Length": "100000", "Content-Type": "image/png" },
    });
    sent.on("error", () => gone());
    sent.write("x", () => sent.destroy());
  });
  expect((await call("/api/health", "GET", {})).status).toBe(200);
});
