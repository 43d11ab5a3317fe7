import { useDocumentTitle } from "@mantine/hooks";
import { useParams } from "react-router";
import { useRouteView, useTicket } from "../api/tickets";
import { TopBar } from "../shell/TopBar";
import { Bench } from "./Bench";
import css from "./Bench.module.css";

/** Finds the ticket and the route that an address names, and lays them on the bench. */
export function BenchPage() {
  const { ticketId = "", routeId } = useParams();
  const ticket = useTicket(ticketId);
  const id = routeId ?? ticket.data?.routes[0]?.id;
  const route = useRouteView(id);
  useDocumentTitle(ticket.data ? `${ticket.data.number} ${ticket.data.piece}, Hard Line` : "Hard Line");
  const error = ticket.error ?? route.error;
  return (
    <div className={css.page}>
      <TopBar />
      {error ? (
        <p className={css.trouble} role="alert">
          This ticket cannot be shown: {error.message}
        </p>
      ) : ticket.data && route.data ? (
        <Bench key={route.data.id} ticket={ticket.data} view={route.data} />
      ) : (
        <div className={css.grid} aria-label="Loading the ticket">
          <div className={css.docketSkeleton} />
          <div className={css.tableSkeleton} />
          <div className={css.readingsSkeleton} />
        </div>
      )}
    </div>
  );
}
