import { Button, TextInput } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import dayjs from "dayjs";
import { useState } from "react";
import { Link } from "react-router";
import { useCustomers } from "../api/customers";
import { useMay } from "../api/people";
import room from "../shared/room/Room.module.css";
import { Trouble } from "../shared/Trouble";
import { useTyped } from "../shared/useTyped";
import { TopBar } from "../shell/TopBar";
import { CustomerForm } from "./CustomerForm";
import css from "./Customers.module.css";
import { ShowMore } from "./ShowMore";

/** Whom the shop works for, found as one types. */
export function CustomersRoom() {
  const [search, setSearch] = useState("");
  const [adding, setAdding] = useState(false);
  const find = useTyped(search);
  const asked = useCustomers(find);
  const may = useMay("make");
  useDocumentTitle("Customers, Hard Line");
  const customers = asked.data?.pages.flatMap((p) => p.customers) ?? [];
  const count = asked.data?.pages[0]?.count ?? 0;
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>Customers</h1>
          <p>A name that is written on a ticket becomes a customer by itself.</p>
          <TextInput
            aria-label="Find a customer"
            placeholder="Name, address, telephone"
            autoFocus
            w={240}
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
          />
          {may && <Button onClick={() => setAdding(true)}>New customer</Button>}
        </div>
        <Trouble title="The customers cannot be shown" of={[asked]} />
        {customers.length > 0 && (
          <table className={`${room.table} ${css.table}`}>
            <thead>
              <tr>
                <th scope="col">{count === 1 ? "One customer" : `${count} customers`}</th>
                <th scope="col">Address</th>
                <th scope="col">Telephone</th>
                <th scope="col" className={room.number}>
                  Tickets
                </th>
                <th scope="col">Last</th>
              </tr>
            </thead>
            <tbody>
              {customers.map((c) => (
                <tr key={c.id}>
                  <th scope="row">
                    <Link to={`/customers/${c.id}`}>{c.name}</Link>
                  </th>
                  <td>{[c.email, c.address.split("\n")[0]].filter(Boolean).join(", ") || "–"}</td>
                  <td>{c.phone || "–"}</td>
                  <td className={`mono ${room.number}`}>{c.tickets || "–"}</td>
                  <td>{c.lastAt ? dayjs(c.lastAt).format("D MMM YYYY") : "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {asked.isSuccess && customers.length === 0 && (
          <p className={css.none}>{find ? `No customer with “${find}”.` : "There is no customer yet."}</p>
        )}
        <ShowMore asked={asked} />
      </main>
      {adding && <CustomerForm customer={null} close={() => setAdding(false)} />}
    </div>
  );
}
