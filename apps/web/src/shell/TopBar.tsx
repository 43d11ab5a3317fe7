import { type ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { PersonMenu } from "../door/PersonMenu";
import { Mark } from "../shared/Mark";
import { lastBoard } from "../shared/lastBoard";
import { useUnit } from "../shared/unit";
import css from "./TopBar.module.css";

const ROOMS = [
  { to: "/", name: "Tickets" },
  { to: "/sheets", name: "Sheets" },
  { to: "/machines", name: "Machines" },
  { to: "/materials", name: "Materials" },
  { to: "/batches", name: "Batches" },
  { to: "/customers", name: "Customers" },
  { to: "/today", name: "Today" },
];
/** A ticket on the bench belongs to the tickets, a run to the machines. */
const isHere = (to: string, at: string): boolean =>
  to === "/"
    ? at === "/" || at.startsWith("/tickets")
    : at.startsWith(to) || (to === "/machines" && at.startsWith("/runs"));

/** The one bar at the top: whose program this is, where one is, and the unit of length. */
export function TopBar({ children }: { children?: ReactNode }) {
  const { unit, setUnit } = useUnit();
  const { pathname } = useLocation();
  return (
    <nav className={css.bar} aria-label="Hard Line">
      <Link to={lastBoard()} className={css.mark} aria-label="Hard Line, to the tickets">
        <Mark />
      </Link>
      <div className={css.nav}>
        {ROOMS.map(({ to, name }) => (
          <Link
            key={to}
            to={to === "/" ? lastBoard() : to}
            className={isHere(to, pathname) ? css.here : undefined}
          >
            {name}
          </Link>
        ))}
      </div>
      <div className={css.middle}>{children}</div>
      <div className={css.units} role="group" aria-label="Unit of length">
        {(["mm", "in"] as const).map((u) => (
          <button
            key={u}
            type="button"
            aria-pressed={unit === u}
            onClick={() => setUnit(u)}
            title={u === "mm" ? "Millimetres" : "Inches"}
          >
            {u}
          </button>
        ))}
      </div>
      <PersonMenu />
    </nav>
  );
}
