import { type TicketView } from "@hardline/contract";
import dayjs from "dayjs";
import { arrange, within } from "./arrange";

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

test("tickets come in groups by the day they are due", () => {
  const all = [
    ticket(5, "2026-11-20"),
    ticket(4, "2026-11-25"),
    ticket(6, "2026-11-26"),
    ticket(3, "2026-11-27"),
    ticket(9, "2026-11-29"),
    ticket(7, "2026-11-30"),
    ticket(8, "2026-12-06"),
    ticket(2, "2026-12-20"),
    ticket(1, null),
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

test("in any other order they stand as they come, under one heading", () => {
  const all = [ticket(3, null), ticket(1, "2026-11-25"), ticket(2, null)];
  expect(arrange(all, "customer").map((g) => [g.title, g.tickets.map((t) => t.number)])).toEqual([
    ["Customer", [3, 1, 2]],
  ]);
});

test("tickets that were put away stand by themselves, whenever they were due", () => {
  const away = ticket(5, "2026-11-20", { state: "archived" });
  expect(titles([ticket(4, "2026-11-25"), away])).toEqual(["Today: 4", "Put away: 5"]);
  expect(arrange([away], "due", WEDNESDAY)[0].detail).toBeUndefined();
});

test("of a stretch of all cards each group has what lies within, and knows what came before", () => {
  const groups = arrange(
    [ticket(1, "2026-11-25"), ticket(2, "2026-11-25"), ticket(3, "2026-11-26"), ticket(4, null)],
    "due",
    WEDNESDAY,
  );
  const parts = (from: number, to: number) =>
    within(groups, from, to).map((g) => [g.title, g.skipped, ...g.tickets.map((t) => t.number)]);
  expect(parts(0, 4)).toEqual([
    ["Today", 0, 1, 2],
    ["Tomorrow", 0, 3],
    ["No date", 0, 4],
  ]);
  expect(parts(1, 3)).toEqual([
    ["Today", 1, 2],
    ["Tomorrow", 0, 3],
  ]);
  expect(parts(3, 9)).toEqual([["No date", 0, 4]]);
  expect(parts(2, 2)).toEqual([]);
});
