import { type TicketView } from "@hardline/contract";
import dayjs from "dayjs";
import { arrange, matches } from "./arrange";

const WEDNESDAY = dayjs("2026-11-25");
const ticket = (number: number, due: string | null, more: Partial<TicketView> = {}) =>
  ({
    number,
    due,
    piece: `Piece ${number}`,
    customer: "",
    output: "laser",
    material: "",
    looks: 0,
    stops: 0,
    ...more,
  }) as TicketView;
const titles = (tickets: TicketView[]) =>
  arrange(tickets, "due", WEDNESDAY).map((g) => `${g.title}: ${g.tickets.map((t) => t.number).join(" ")}`);

test("tickets come in groups by the day they are due, soonest first", () => {
  const all = [
    ticket(1, null),
    ticket(2, "2026-12-20"),
    ticket(3, "2026-11-27"),
    ticket(4, "2026-11-25"),
    ticket(5, "2026-11-20"),
    ticket(6, "2026-11-26"),
    ticket(7, "2026-11-30"),
    ticket(8, "2026-12-06"),
    ticket(9, "2026-11-29"),
  ];
  expect(titles(all)).toEqual([
    "Overdue: 5",
    "Today: 4",
    "Tomorrow: 6",
    "Friday: 3",
    "Sunday: 9",
    "Next week: 7 8",
    "Later: 2",
    "No date: 1",
  ]);
});

test("from a Sunday, next week starts the day after tomorrow's Monday at the latest", () => {
  const sunday = dayjs("2026-11-29");
  expect(arrange([ticket(1, "2026-12-01")], "due", sunday)[0].title).toBe("Next week");
});

test("other orders: newest number, customer, most to look at with stops first", () => {
  const all = [
    ticket(1, null, { customer: "Zed", looks: 3 }),
    ticket(2, null, { customer: "Ada", stops: 1 }),
    ticket(3, null, { customer: "Moss" }),
  ];
  const numbers = (sort: "number" | "customer" | "looks") =>
    arrange(all, sort)[0].tickets.map((t) => t.number);
  expect([numbers("number"), numbers("customer"), numbers("looks")]).toEqual([
    [3, 2, 1],
    [2, 3, 1],
    [2, 1, 3],
  ]);
});

test("a search finds tickets that have every word somewhere", () => {
  const one = ticket(1042, null, { piece: "Harbour coasters", customer: "Skerry Light", material: "slate" });
  expect([
    matches(one, ""),
    matches(one, "104"),
    matches(one, "slate harb"),
    matches(one, "slate oak"),
  ]).toEqual([true, true, true, false]);
});
