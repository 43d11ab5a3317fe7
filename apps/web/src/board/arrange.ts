import { type TicketView } from "@hardline/contract";
import { type TicketOrder } from "@hardline/contract/constants";
import dayjs, { type Dayjs } from "dayjs";

export const SORTS: readonly { readonly value: TicketOrder; readonly label: string }[] = [
  { value: "due", label: "Soonest due" },
  { value: "number", label: "Newest number" },
  { value: "customer", label: "Customer" },
  { value: "looks", label: "Most to look at" },
];

export interface Group {
  readonly title: string;
  readonly detail?: string;
  readonly tickets: readonly TicketView[];
}

/** Tickets in the order in which they come; by due day in groups with the day as heading, those put away in one of their own. */
export function arrange(tickets: readonly TicketView[], order: TicketOrder, today: Dayjs = dayjs()): Group[] {
  const groups = new Map<string, TicketView[]>();
  const label = SORTS.find((s) => s.value === order)!.label;
  for (const ticket of tickets) {
    const title =
      ticket.state === "archived" ? "Put away" : order === "due" ? dayTitle(ticket.due, today) : label;
    const group = groups.get(title);
    if (group) group.push(ticket);
    else groups.set(title, [ticket]);
  }
  return Array.from(groups, ([title, members]) => ({
    title,
    detail: order === "due" ? dayDetail(title, members[0], today) : undefined,
    tickets: members,
  }));
}

/** The part of each group that lies within a stretch of all cards, and how many of it come before. */
export function within(
  groups: readonly Group[],
  from: number,
  to: number,
): (Group & { readonly skipped: number })[] {
  const parts: (Group & { readonly skipped: number })[] = [];
  let first = 0;
  for (const group of groups) {
    const skipped = Math.max(0, from - first);
    const tickets = group.tickets.slice(skipped, Math.max(0, to - first));
    if (tickets.length > 0) parts.push({ ...group, tickets, skipped });
    first += group.tickets.length;
  }
  return parts;
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
  return ["No date", "Overdue", "Later", "Put away"].includes(title)
    ? undefined
    : dayjs(first.due).format("D MMMM");
}
