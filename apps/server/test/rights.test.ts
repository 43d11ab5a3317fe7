import { ROLE_RIGHTS, ROLES, SCOPES, type Right } from "@hardline/contract";
import { newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { firstOwner, invited, programWith, Visitor } from "../../../e2e/src/visitor";
import { isOpen, OPERATIONS } from "../src/people/operations";

let program: Program;
let owner: Visitor;
/** Every operation that the interface describes, as "METHOD /path/{id}". */
let described: string[];

beforeAll(async () => {
  const database = await newDatabase();
  program = await startProgram(database, ["--role=server"], { HARDLINE_DEMO: "0" });
  owner = await firstOwner(program.url, database);
  const { paths } = await owner.ask<{ paths: Record<string, Record<string, unknown>> }>(
    "GET",
    "/api/openapi.json",
  );
  described = Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
  );
});
afterAll(() => program?.stop());

/** An address that names nothing there is: what is allowed is then refused for another reason. */
const addressOf = (path: string): string =>
  path.replace(/\{(\w+)\}/g, (_, name: string) =>
    name === "key" || name === "name" ? "nothing" : name === "code" ? "AAAA-AAAA-AAAA" : "999999999",
  );

const tried = async (visitor: Visitor, operation: string) => {
  const [method, path] = operation.split(" ");
  return visitor.call(method, addressOf(path), ["GET", "DELETE"].includes(method) ? undefined : {});
};

test("the table of rights has every operation that the interface describes, and no other", () => {
  expect(described.length).toBeGreaterThan(100);
  expect([...described].sort()).toEqual(Object.keys(OPERATIONS).sort());
});

test("who is not known gets nothing but what is open, and learns nothing from it", async () => {
  const nobody = new Visitor(program.url);
  for (const operation of described) {
    const { status, body } = await tried(nobody, operation);
    const [method, path] = operation.split(" ");
    const open = OPERATIONS[operation].needs === "open";
    expect([operation, isOpen(method, addressOf(path))]).toEqual([operation, open]);
    if (open) continue;
    expect([operation, status, body.detail]).toEqual([operation, 401, "Sign in first."]);
  }
  for (const path of [
    "/api/docs",
    "/api/openapi.json",
    "/api/docs/swagger-ui-init.js",
    "/api",
    "/api/",
    "/API/docs",
    "/api/nothing",
    "//api/tickets",
    "/api/../api/tickets",
    "/API/tickets",
    "/api/tickets/",
  ])
    expect([path, (await nobody.call("GET", path)).status]).toEqual([path, 401]);
});

const allowed = (rights: readonly Right[], operation: string): boolean => {
  const { needs } = OPERATIONS[operation];
  return needs === "open" || rights.includes(needs);
};

/** Those that end the session they are tried with. */
const ENDS = /^DELETE \/api\/(session|own\/sessions)$/;

test.each(ROLES)("%s: each operation is refused where the table says so, and only there", async (role) => {
  const visitor = role === "owner" ? owner : await invited(owner, `Try ${role}`, role);
  for (const operation of described.filter((o) => !ENDS.test(o))) {
    const { status, body } = await tried(visitor, operation);
    const refused = status === 403 && body?.title === "Not allowed";
    // Whatever is asked of nothing, with nothing, is answered, and is no fault of the program.
    expect([operation, status < 500]).toEqual([operation, true]);
    expect([operation, status === 401 && !isOpenDoor(operation), refused]).toEqual([
      operation,
      false,
      !allowed(ROLE_RIGHTS[role], operation),
    ]);
  }
  expect((await visitor.session()).person?.role).toBe(role);
});

/** Where a wrong name is answered as not signed in, whoever asks. */
const isOpenDoor = (operation: string): boolean => operation === "POST /api/session";

test.each(SCOPES)(
  "a program with the scope %s may do that, and never what is for people alone",
  async (scope) => {
    const visitor = await programWith(owner, [scope]);
    for (const operation of described.filter((o) => !ENDS.test(o))) {
      const { status, body } = await tried(visitor, operation);
      const refused = status === 403 && body?.title === "Not allowed";
      const shared = operation === "POST /api/session/person" && scope === "see";
      expect([operation, refused]).toEqual([operation, !allowed([scope], operation)]);
      if (shared) expect(status).toBe(400);
    }
  },
);
