import { type TicketView } from "@hardline/contract";

/** A pointer that passes over cards on its way rests on none of them so long, in milliseconds. */
const RESTS_MS = 60;

let waiting: ReturnType<typeof setTimeout> | undefined;

/** A card that a hand rests on will perhaps be opened: what its first picture is made of is read ahead. Null, it left. */
export function pointedAt(ticket: TicketView | null): void {
  clearTimeout(waiting);
  if (!ticket) return;
  waiting = setTimeout(
    () =>
      void import("../bench/BenchPage").then(
        ({ readAhead }) => readAhead(ticket.artwork),
        () => undefined, // when it is opened it is told why it cannot be loaded
      ),
    RESTS_MS,
  );
}
