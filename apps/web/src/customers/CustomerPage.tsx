import { type CustomerRecord, type TicketView } from "@hardline/contract";
import { Button, VisuallyHidden } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import dayjs from "dayjs";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useCustomer } from "../api/customers";
import { useMay } from "../api/people";
import { useTickets } from "../api/tickets";
import { OrderAgainForm } from "../order/OrderAgainForm";
import room from "../shared/room/Room.module.css";
import { Trouble } from "../shared/Trouble";
import { NotHere } from "../shell/NotHere";
import { TopBar } from "../shell/TopBar";
import { CustomerForm } from "./CustomerForm";
import css from "./Customers.module.css";
import { ShowMore } from "./ShowMore";
import { RemoveCustomer } from "./RemoveCustomer";

/** One customer: contact, what was ordered, artwork, own photographs, what was approved. */
export function CustomerPage() {
  const { customerId = "" } = useParams();
  const asked = useCustomer(customerId);
  const customer = asked.data;
  const [open, setOpen] = useState<"form" | "remove" | null>(null);
  const [again, setAgain] = useState<TicketView | null>(null);
  const [mayChange, mayRemove] = [useMay("make"), useMay("people")];
  useDocumentTitle(`${customer?.name ?? "Customer"}, Hard Line`);
  if (asked.error && !customer)
    return <NotHere what="This customer cannot be shown" why={asked.error.message} />;
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>{customer?.name ?? "…"}</h1>
          <p>{customer && `${customer.tickets} ${customer.tickets === 1 ? "ticket" : "tickets"}`}</p>
          {mayRemove && customer && (
            <>
              <Button variant="default" component="a" href={`/api/customers/${customer.id}/export`}>
                Export all
              </Button>
              <Button variant="default" color="red" onClick={() => setOpen("remove")}>
                Remove for good
              </Button>
            </>
          )}
          {mayChange && customer && <Button onClick={() => setOpen("form")}>Change</Button>}
        </div>
        {customer && (
          <div className={css.columns}>
            <div>
              <OldTickets customerId={customer.id} again={mayChange ? setAgain : null} />
            </div>
            <Beside customer={customer} />
          </div>
        )}
      </main>
      {open === "form" && customer && <CustomerForm customer={customer} close={() => setOpen(null)} />}
      {open === "remove" && customer && <RemoveCustomer customer={customer} close={() => setOpen(null)} />}
      {again && <OrderAgainForm ticketId={again.id} close={() => setAgain(null)} />}
    </div>
  );
}

interface OldTicketsProps {
  readonly customerId: string;
  readonly again: ((ticket: TicketView) => void) | null;
}

/** What was ordered, the latest first; each can be ordered again. */
function OldTickets({ customerId, again }: OldTicketsProps) {
  const asked = useTickets({ customer: customerId, order: "number" });
  const tickets = asked.data?.pages.flatMap((p) => p.tickets) ?? [];
  return (
    <>
      <Trouble title="The tickets cannot be shown" of={[asked]} />
      <table className={`${room.table} ${css.table}`}>
        <thead>
          <tr>
            <th scope="col">Ticket</th>
            <th scope="col">Piece</th>
            <th scope="col">For</th>
            <th scope="col" className={room.number}>
              Pieces
            </th>
            <th scope="col">Begun</th>
            <th scope="col">State</th>
            <th scope="col">
              <VisuallyHidden>What can be done</VisuallyHidden>
            </th>
          </tr>
        </thead>
        <tbody>
          {tickets.map((t) => (
            <tr key={t.id}>
              <th scope="row">
                <Link to={`/tickets/${t.id}`} className={css.ticket}>
                  <span className={css.picture} style={{ backgroundImage: `url("${t.thumbnail}")` }} />
                  <span className="mono">{t.number}</span>
                </Link>
              </th>
              <td>{t.piece}</td>
              <td>{[t.output, t.material].filter(Boolean).join(", ")}</td>
              <td className={`mono ${room.number}`}>{t.pieces}</td>
              <td>{dayjs(t.createdAt).format("D MMM YYYY")}</td>
              <td>{t.state}</td>
              <td>
                {again && (
                  <Button variant="default" size="compact-sm" onClick={() => again(t)}>
                    Order again
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {asked.isSuccess && tickets.length === 0 && <p className={css.none}>Nothing was ordered yet.</p>}
      <ShowMore asked={asked} />
    </>
  );
}

function Beside({ customer }: { customer: CustomerRecord }) {
  const { email, phone, address, note, artworks, photos, approvals } = customer;
  const contact = [phone, email, address].filter(Boolean);
  return (
    <aside className={css.beside} aria-label="Contact and artwork">
      <section>
        <h2>Contact</h2>
        {contact.length === 0 ? (
          <p>Nothing is written down.</p>
        ) : (
          contact.map((line) => <p key={line}>{line}</p>)
        )}
        {note && <p className={css.note}>{note}</p>}
      </section>
      {artworks.length > 0 && (
        <section>
          <h2>Artwork</h2>
          <div className={css.pictures}>
            {artworks.map((a) => (
              <Link key={a.id} to={`/tickets/${a.ticketId}`} title={`${a.name}, ticket ${a.number}`}>
                <img src={a.thumbnail} alt={a.name} loading="lazy" />
              </Link>
            ))}
          </div>
        </section>
      )}
      {photos.length > 0 && (
        <section>
          <h2>Own photographs</h2>
          <div className={css.pictures}>
            {photos.map((p) => (
              <img key={p.key} src={`/api/artworks/${p.artworkId}/thumbnail`} alt={p.name} loading="lazy" />
            ))}
          </div>
        </section>
      )}
      {approvals.length > 0 && (
        <section>
          <h2>Approved</h2>
          {approvals.map((a) => (
            <p key={a.id}>
              <Link to={`/tickets/${a.ticketId}/routes/${a.routeId}?stage=history`}>
                {a.number} {a.piece}, r{a.revision}
              </Link>
              <br />
              {a.who}; {a.by.name}, {dayjs(a.at).format("D MMM YYYY")}
            </p>
          ))}
        </section>
      )}
    </aside>
  );
}
