import { type TicketView } from "@hardline/contract";
import dayjs from "dayjs";
import { Link } from "react-router";
import { pointedAt } from "./pointedAt";
import { askAhead } from "../api/tickets";
import css from "./TicketCard.module.css";

/** One ticket, as the torn-off copy of a docket: its picture, whose it is, what it needs. */
export function TicketCard({ ticket }: { ticket: TicketView }) {
  const { id, number, piece, customer, due, pieces, output, material, thumbnail, routes } = ticket;
  return (
    <Link
      to={`/tickets/${id}`}
      className={css.card}
      data-ticket={number}
      onPointerEnter={() => pointedAt(ticket)}
      onPointerLeave={() => pointedAt(null)}
      onPointerDown={() => routes.length > 0 && askAhead(routes[0].id)}
      onFocus={() => pointedAt(ticket)}
    >
      <span className={css.picture} style={{ backgroundImage: `url("${thumbnail}")` }} />
      <span className={css.words}>
        <span className={css.top}>
          <span className={`mono ${css.number}`}>{number}</span>
          <Stamp ticket={ticket} />
        </span>
        <b>{piece}</b>
        <span className={css.customer}>
          {[customer, due && `due ${dayjs(due).format("D MMM")}`].filter(Boolean).join(", ")}
        </span>
        <span className={css.foot}>
          <span className={css.output}>{[output, material].filter(Boolean).join(", ")}</span>
          <span className="mono">{pieces} off</span>
        </span>
      </span>
    </Link>
  );
}

/** Where a ticket stands, in a word. */
export function Stamp({ ticket: { state, looks, stops } }: { ticket: TicketView }) {
  const words =
    state === "to look at" ? `${looks} to look at` : state === "to stop" ? `${stops} to stop` : state;
  return <span className={`${css.stamp} ${css[state.replaceAll(" ", "_")]}`}>{words}</span>;
}
