import { type TicketView } from "@hardline/contract";

/** A ticket of a number, as plain as can be. */
export const ticketOf = (number: number, more: Partial<TicketView> = {}): TicketView =>
  ({
    ...{ id: String(number), number, piece: `Piece ${number}`, customer: "", due: null, pieces: 1 },
    ...{ output: "laser", material: "", thumbnail: "", state: "draft", looks: 0, stops: 0, routes: [] },
    ...more,
  }) as unknown as TicketView;
