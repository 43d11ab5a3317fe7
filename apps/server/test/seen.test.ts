import { type RenderView, type RouteView, type RunView } from "@hardline/contract";
import { withSettings } from "@hardline/core/route/route";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"]);
});
afterAll(() => program?.stop());

const ROUTE = [{ stage: "size", widthMm: 20, dotsPerInch: 254 }, { stage: "tone" }, { stage: "blackWhite" }];
const picture = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: "#555" } })
    .png()
    .toBuffer();
/** A route that somebody saw at revision 1 and somebody else brought to revision 2. */
async function movedOn(): Promise<RouteView> {
  const { route } = await addTicket(program.url, await picture(), "p.png", ROUTE);
  const body = { version: route.version, route: withSettings(route.route, "tone", { black: 0.3 }) };
  return ask<RouteView>(`${program.url}/api/routes/${route.id}`, "PUT", body);
}
const post = (path: string, body: object) =>
  fetch(`${program.url}${path}`, {
    method: "POST",
    body: JSON.stringify(body),
    headers: { "Content-Type": "application/json" },
  });

test("files of a revision that is not the route's any more are refused, with the route as it is", async () => {
  const route = await movedOn();
  const path = `/api/routes/${route.id}/renders`;
  const stale = await post(path, { revision: route.revision - 1 });
  expect(stale.status).toBe(409);
  const problem = (await stale.json()) as { detail: string; current: RouteView };
  expect(problem.detail).toMatch(/Revision \d+ of .* was seen, and it is revision \d+ by now/);
  expect(problem.current.revision).toBe(route.revision);
  expect(await ask<RenderView[]>(`${program.url}${path}`)).toEqual([]);
  const made = await ask<RenderView>(`${program.url}${path}`, "POST", { revision: route.revision });
  expect(made.revision).toBe(route.revision);
  expect((await post(path, { revision: "2" })).status).toBe(400);
});

test("so is a run, and nothing is planned", async () => {
  const route = await movedOn();
  const run = { machine: "bed-laser", routeId: route.id, wish: {} };
  expect((await post("/api/runs", { ...run, revision: route.revision - 1 })).status).toBe(409);
  const runs = () => ask<RunView[]>(`${program.url}/api/tickets/${route.ticketId}/runs`);
  expect(await runs()).toEqual([]);
  expect((await post("/api/runs", { ...run, revision: route.revision })).status).toBe(201);
  expect((await runs())[0].revision).toBe(route.revision);
});
