import { type TicketView } from "@hardline/contract";
import dayjs, { type Dayjs } from "dayjs";

export const SORTS = [
  { value: "due", label: "Soonest due" },
  { value: "number", label: "Newest number" },
  { value: "customer", label: "Customer" },
  { value: "looks", label: "Most to look at" },
] as const;
export type Sort = (typeof SORTS)[number]["value"];

export interface Group {
  readonly title: string;
  readonly detail?: string;
  readonly tickets: readonly TicketView[];
}

/** Does a ticket have every word of the search in its number, piece, customer, output or material? */
export function matches(ticket: TicketView, search: string): boolean {
  const text =
    `${ticket.number} ${ticket.piece} ${ticket.customer} ${ticket.output} ${ticket.material}`.toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** Tickets in the order asked for; by due day they come in groups with the day as heading. */
export function arrange(tickets: readonly TicketView[], sort: Sort, today: Dayjs = dayjs()): Group[] {
  if (tickets.length === 0) return [];
  if (sort !== "due") {
    const by: Record<Exclude<Sort, "due">, (a: TicketView, b: TicketView) => number> = {
      number: (a, b) => b.number - a.number,
      customer: (a, b) => a.customer.localeCompare(b.customer) || a.number - b.number,
      looks: (a, b) => b.stops - a.stops || b.looks - a.looks || a.number - b.number,
    };
    return [{ title: SORTS.find((s) => s.value === sort)!.label, tickets: [...tickets].sort(by[sort]) }];
  }
  const groups = new Map<string, TicketView[]>();
  const order = (t: TicketView) => t.due ?? "9999";
  for (const ticket of [...tickets].sort((a, b) => order(a).localeCompare(order(b)) || a.number - b.number)) {
    const title = dayTitle(ticket.due, today);
    groups.set(title, [...(groups.get(title) ?? []), ticket]);
  }
  return Array.from(groups, ([title, members]) => ({
    title,
    detail: dayDetail(title, members[0], today),
    tickets: members,
  }));
}

function dayTitle(due: string | null, today: Dayjs): string {
  if (!due) return "No date";
  const day = dayjs(due);
  const days = day.startOf("day").diff(today.startOf("day"), "day");
  if (days < 0) return "Overdue";
  if (days === 0) return "Today";
  if (days === 1) return "Tomorrow";
  const nextMonday = today.startOf("day").add((8 - today.day()) % 7 || 7, "day");
  if (day.isBefore(nextMonday)) return day.format("dddd");
  return day.isBefore(nextMonday.add(7, "day")) ? "Next week" : "Later";
}

function dayDetail(title: string, first: TicketView, today: Dayjs): string | undefined {
  if (title === "Today") return today.format("dddd D MMMM");
  if (title === "Next week") return `from ${dayjs(first.due).startOf("week").add(1, "day").format("D MMMM")}`;
  return ["No date", "Overdue", "Later"].includes(title) ? undefined : dayjs(first.due).format("D MMMM");
}
