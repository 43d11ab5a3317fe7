import { RouteError } from "@hardline/core/settings/errors";
import { IntakeError } from "@hardline/intake";
import { type ArgumentsHost } from "@nestjs/common";
import { ProblemFilter } from "./problems";

function answerTo(error: unknown): { status: number; detail: string; instance: string } {
  let sent = "";
  const response = {
    headersSent: false,
    status: () => response,
    type: () => response,
    set: () => response,
    send: (body: string) => void (sent = body),
  };
  const host = {
    switchToHttp: () => ({ getResponse: () => response, getRequest: () => ({ url: "/api/x" }) }),
  };
  new ProblemFilter().catch(error, host as unknown as ArgumentsHost);
  return JSON.parse(sent) as ReturnType<typeof answerTo>;
}

test.each([
  [
    Object.assign(new Error("could not extend file"), { code: "53100" }),
    507,
    /disk of the database is full. Nothing was changed/,
  ],
  [Object.assign(new Error("connect"), { code: "ECONNREFUSED" }), 503, /database does not answer/],
  [new Error("Connection terminated unexpectedly"), 503, /ended while this was at work. Look whether/],
  [
    Object.assign(new Error("too large"), { status: 413, type: "entity.too.large", limit: 2 << 20 }),
    413,
    /2 MB/,
  ],
  [Object.assign(new URIError("Failed to decode param '%'"), { status: 400 }), 400, /decode/],
  [Object.assign(new Error("invalid byte sequence"), { code: "22021" }), 400, /cannot be kept/],
  [
    Object.assign(new Error("aborted"), { code: "ECONNRESET" }),
    400,
    /broken off before everything had arrived/,
  ],
  [new IntakeError("The file is empty (0 bytes)."), 422, /empty/],
  [new RouteError("size", "widthMm", -1, "1 or more"), 422, /size: widthMm is -1; allowed: 1 or more/],
  [new TypeError("secret of the program"), 500, /in the log/],
])("%s", (error, status, detail) => {
  const answer = answerTo(error);
  expect(answer).toMatchObject({ status, instance: "/api/x" });
  expect(answer.detail).toMatch(detail);
  expect(answer.detail).not.toContain("secret");
});
