import { MATERIAL_NUMBERS } from "@hardline/core/material/numbers";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { readRoute } from "@hardline/core/route/route";
import { plainToInstance } from "class-transformer";
import { validateSync } from "class-validator";
import { MaterialBody } from "./material";
import { Findings, SaveRoute } from "./route";
import { NewTicket, TicketChange } from "./ticket";

const faults = <T extends object>(type: new () => T, value: object): string[] =>
  validateSync(plainToInstance(type, value), { whitelist: true, forbidNonWhitelisted: true }).flatMap((e) =>
    Object.values(e.constraints ?? {}),
  );

test("a ticket takes what an operator writes", () => {
  expect(
    faults(NewTicket, {
      artworkId: "3",
      piece: "Tag",
      customer: "",
      due: "2026-12-01",
      pieces: 2,
      note: "",
      output: "laser",
      material: "",
    }),
  ).toEqual([]);
  expect(faults(TicketChange, {})).toEqual([]);
  expect(faults(TicketChange, { due: null })).toEqual([]);
});

test.each([
  [{ pieces: 0 }, /pieces must not be less than 1/],
  [{ pieces: 1.5 }, /pieces must be an integer/],
  [{ due: "2026-02-30" }, /due/],
  [{ due: "1.12.2026" }, /due/],
  [{ output: "oven" }, /laser, cutter/],
  [{ piece: "" }, /piece/],
  [{ colour: "red" }, /colour should not exist/],
  [{ piece: null }, /piece/],
  [{ pieces: null }, /pieces/],
  [{ materialColour: null }, /materialColour/],
])("a ticket refuses %j", (change, reason) => {
  expect(faults(TicketChange, change).join("; ")).toMatch(reason);
});

const { key: _key, curve: _curve, ...wood } = USUAL_MATERIALS[0];

test.each(MATERIAL_NUMBERS.map(({ name, least, most }) => [name, least, most] as const))(
  "a material's %s is taken from %d to %d, and what lies outside is named",
  (name, least, most) => {
    for (const value of [least, most]) expect(faults(MaterialBody, { ...wood, [name]: value })).toEqual([]);
    for (const value of [least - 0.001, most + 0.001, Infinity, "3", null])
      expect(faults(MaterialBody, { ...wood, [name]: value }).join("; ")).toContain(name);
  },
);

test("numbers beyond what is kept are refused", () => {
  expect(faults(NewTicket, { artworkId: "12345678901234567890" }).join()).toMatch(/artworkId/);
  expect(faults(Findings, { revision: 2147483648, looks: 0, stops: 0 }).join()).toMatch(/revision/);
});

test("a route is checked in the words of the route file", () => {
  const route = readRoute({ format: "hard-line-route", version: 1, name: "A", stages: [] });
  expect(faults(SaveRoute, { version: 1, route })).toEqual([]);
  expect(
    faults(SaveRoute, { version: 1, route: { ...route, stages: [{ stage: "size", widthMm: -3 }] } }).join(),
  ).toContain("size: widthMm is -3; allowed: 1 or more");
});

test("findings take a small base64 picture and nothing else", () => {
  expect(faults(Findings, { revision: 1, looks: 0, stops: 0, thumbnail: "iVBORw0=" })).toEqual([]);
  expect(faults(Findings, { revision: 1, looks: 0, stops: 0, thumbnail: "<svg>" })).toHaveLength(1);
});
