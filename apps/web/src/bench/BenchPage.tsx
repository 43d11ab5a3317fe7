import { useDocumentTitle } from "@mantine/hooks";
import { useEffect } from "react";
import { useParams } from "react-router";
import { useRouteView, useTicket } from "../api/tickets";
import { readAhead } from "../engine/spareWorker";
import { NotHere } from "../shell/NotHere";
import { TopBar } from "../shell/TopBar";
import { Bench } from "./Bench";
import css from "./Bench.module.css";

export { keepSpareWorker, readAhead } from "../engine/spareWorker";

/** Finds the ticket and the route that an address names, and lays them on the bench. */
export function BenchPage() {
  const { ticketId = "", routeId } = useParams();
  const ticket = useTicket(ticketId);
  const artwork = ticket.data?.artwork;
  useEffect(() => {
    if (artwork) readAhead(artwork);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each artwork
  }, [artwork?.id]);
  const id = routeId ?? ticket.data?.routes[0]?.id;
  const route = useRouteView(id);
  useDocumentTitle(ticket.data ? `${ticket.data.number} ${ticket.data.piece}, Hard Line` : "Hard Line");
  const error = ticket.error ?? route.error;
  // A route that an address names beside a ticket must be of that ticket.
  const other = ticket.data && route.data && route.data.ticketId !== ticket.data.id ? route.data : null;
  if (error) return <NotHere what="This ticket cannot be shown" why={error.message} />;
  if (other)
    return (
      <NotHere
        what={`Ticket ${ticket.data!.number} has no such route`}
        why={`Route ${other.id}, ${other.route.name}, is of another ticket.`}
      />
    );
  return (
    <div className={css.page}>
      <TopBar />
      {ticket.data && route.data ? (
        <Bench key={route.data.id} ticket={ticket.data} view={route.data} />
      ) : (
        <div className={css.grid} role="status" aria-label="Loading the ticket">
          <div className={css.docketSkeleton} />
          <div className={css.tableSkeleton} />
          <div className={css.readingsSkeleton} />
        </div>
      )}
    </div>
  );
}
