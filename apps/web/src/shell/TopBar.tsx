import { type ReactNode } from "react";
import { Link } from "react-router";
import { useUnit } from "../shared/unit";
import css from "./TopBar.module.css";

/** The one bar at the top: whose program this is, where one is, and the unit of length. */
export function TopBar({ children }: { children?: ReactNode }) {
  const { unit, setUnit } = useUnit();
  return (
    <nav className={css.bar} aria-label="Hard Line">
      <Link to="/" className={css.mark} aria-label="Hard Line, to the tickets">
        <span className={css.sign} aria-hidden />
        HARD LINE
      </Link>
      <div className={css.nav}>
        <Link to="/" className={css.here}>
          Tickets
        </Link>
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
    </nav>
  );
}
