import {
  type HouseRouteView,
  type MaterialView,
  type RouteView,
  type StripView,
  type TicketsView,
  type TicketView,
} from "@hardline/contract";
import { routeFor } from "@hardline/core/material/material";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { readRoute, settingsOf } from "@hardline/core/route/route";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

/* Materials, house routes and kept strips: what the shop knows beyond its tickets. */
let program: Program;
const at = (path: string) => `${program.url}/api${path}`;
const STAGES = [{ stage: "size", widthMm: 20, dotsPerInch: 254 }, { stage: "tone" }, { stage: "blackWhite" }];
const picture = () =>
  sharp({ create: { width: 80, height: 60, channels: 3, background: "#7a6650" } })
    .png()
    .toBuffer();

beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"]);
});
afterAll(() => program?.stop());

/** Status and words of a refusal. */
async function refused(path: string, method: string, json?: unknown): Promise<[number, string]> {
  const response = await fetch(at(path), {
    method,
    body: json === undefined ? undefined : JSON.stringify(json),
    headers: json === undefined ? {} : { "Content-Type": "application/json" },
  });
  expect(response.ok).toBe(false);
  return [response.status, ((await response.json()) as { detail: string }).detail];
}

describe("materials", () => {
  test("a shop begins with a dozen, with values that the route takes", async () => {
    const all = await ask<MaterialView[]>(at("/materials"));
    expect(all).toHaveLength(USUAL_MATERIALS.length);
    expect(all.length).toBeGreaterThanOrEqual(12);
    const route = readRoute({ format: "hard-line-route", version: 1, name: "A", stages: STAGES });
    for (const material of all) {
      const made = routeFor(route, material);
      expect(settingsOf(made, "size")!.dotsPerInch).toBe(material.dotsPerInch);
      expect(readRoute(JSON.parse(JSON.stringify(made)))).toEqual(made);
    }
  });

  test("one is added, changed, counted where it is in use, and removed when it is in use no more", async () => {
    const { key: _, ...slate } = USUAL_MATERIALS.find((m) => m.key === "slate")!;
    const made = await ask<MaterialView>(at("/materials"), "POST", { ...slate, name: "Green slate, 8 mm" });
    expect(made).toMatchObject({ key: "green-slate-8-mm", version: 1, inUse: 0 });
    const { key, version, inUse: _in, curve, ...body } = made;
    expect(curve).toBeNull();
    const saved = await ask<MaterialView>(at(`/materials/${key}`), "PUT", { ...body, version, dotMm: 0.22 });
    expect(saved).toMatchObject({ version: 2, dotMm: 0.22 });
    expect(await refused(`/materials/${key}`, "PUT", { ...body, version })).toEqual([
      409,
      "Somebody else changed Green slate, 8 mm since it was opened here.",
    ]);
    expect((await refused("/materials", "POST", { ...body, name: "Green  slate 8 mm!" }))[0]).toBe(409);

    const { route, ticket } = await addTicket(program.url, await picture(), "a.png", STAGES);
    const next = routeFor(route.route, saved);
    await ask<RouteView>(at(`/routes/${route.id}`), "PUT", { version: route.version, route: next });
    expect(await refused(`/materials/${key}`, "DELETE")).toEqual([
      409,
      "Green slate, 8 mm is in use on 1 route and stays.",
    ]);
    await ask(at(`/tickets/${ticket.id}/archive`), "POST");
    await ask(at(`/materials/${key}`), "DELETE");
    expect((await refused(`/materials/${key}`, "DELETE"))[0]).toBe(404);
  });

  test.each<[object, RegExp]>([
    [{ dotsPerInch: 0 }, /dotsPerInch is 0; it must not be less than 10/],
    [{ dotsPerInch: null }, /dotsPerInch is null/],
    [{ dotMm: "fine" }, /dotMm is "fine"/],
    [{ answer: "melts" }, /answer is "melts"/],
    [{ bareColour: "red" }, /bareColour is "red"/],
    [{ grainStrength: 2 }, /grainStrength is 2/],
    [{ name: "" }, /name/],
    [{ name: "…" }, /needs a letter or digit/],
    [{ lustre: 1 }, /there is no field lustre/],
  ])("nonsense is refused by its name: %j", async (wrong, words) => {
    const { key: _, ...slate } = USUAL_MATERIALS[2];
    const [status, detail] = await refused("/materials", "POST", { ...slate, ...wrong });
    expect(status).toBe(400);
    expect(detail).toMatch(words);
  });
});

test("a house route begins other tickets, and is kept once by its name", async () => {
  const { route } = await addTicket(program.url, await picture(), "b.png", STAGES);
  const house = await ask<HouseRouteView>(at("/house-routes"), "POST", {
    name: "Coasters",
    route: route.route,
  });
  expect((await refused("/house-routes", "POST", { name: "Coasters", route: route.route }))[0]).toBe(409);
  expect(await ask<HouseRouteView[]>(at("/house-routes"))).toHaveLength(1);
  const ticket = await ask<TicketView>(at("/tickets"), "POST", {
    artworkId: (await ask<TicketsView>(at("/tickets"))).tickets[0].artwork.id,
    houseRouteId: house.id,
  });
  const first = await ask<RouteView>(at(`/routes/${ticket.routes[0].id}`));
  expect(first.route).toEqual({ ...route.route, name: "Coasters" });
  await ask(at(`/house-routes/${house.id}`), "DELETE");
  expect((await refused(`/house-routes/${house.id}`, "DELETE"))[0]).toBe(404);
  expect(
    (await refused("/tickets", "POST", { artworkId: ticket.artwork.id, houseRouteId: house.id }))[0],
  ).toBe(404);
});

test("a strip is kept on its ticket with its bitmap", async () => {
  const { ticket, route } = await addTicket(program.url, await picture(), "c.png", STAGES);
  const png = await sharp(Buffer.alloc(64 * 32, 255), { raw: { width: 64, height: 32, channels: 1 } })
    .png()
    .toBuffer();
  const strip = {
    routeId: route.id,
    revision: route.revision,
    title: "Lines",
    labels: ["30", "45"],
    picture: png.toString("base64"),
  };
  const made = await ask<StripView>(at(`/tickets/${ticket.id}/strips`), "POST", strip);
  expect(made).toMatchObject({ title: "Lines", labels: ["30", "45"], revision: route.revision });
  const back = await fetch(`${program.url}${made.pictureUrl}`);
  expect(Buffer.from(await back.arrayBuffer()).equals(png)).toBe(true);
  expect((await refused(`/tickets/${ticket.id}/strips`, "POST", { ...strip, revision: 999 }))[0]).toBe(404);
  expect(
    (await refused(`/tickets/${ticket.id}/strips`, "POST", { ...strip, picture: "bm90IGEgcG5n" }))[1],
  ).toMatch(/no PNG/);
  await ask(at(`/strips/${made.id}`), "DELETE");
  expect(await ask<StripView[]>(at(`/tickets/${ticket.id}/strips`))).toEqual([]);
});

test.each<[object, RegExp]>([
  [{ method: "screen", linesPerInch: 10000 }, /blackWhite: linesPerInch is 10000; allowed: 400 or less/],
  [
    {
      gain: [
        [0, 0],
        [0.5, 0.7],
        [0.4, 0.8],
        [1, 1],
      ],
    },
    /blackWhite: gain.2.0 is 0.4; allowed: above 0.5, the point before/,
  ],
  [{ holdHighlight: null }, /blackWhite: holdHighlight is null; allowed: a number/],
])("a route with nonsense settings is not saved: %j", async (wrong, words) => {
  const { route } = await addTicket(program.url, await picture(), "d.png", STAGES);
  const stages = [...STAGES.slice(0, 2), { stage: "blackWhite", ...wrong }];
  const [status, detail] = await refused(`/routes/${route.id}`, "PUT", {
    version: route.version,
    route: { format: "hard-line-route", version: 1, name: "A", stages },
  });
  expect(status).toBe(400);
  expect(detail).toMatch(words);
  expect((await ask<RouteView>(at(`/routes/${route.id}`))).revision).toBe(route.revision);
});
