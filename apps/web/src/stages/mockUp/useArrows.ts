import { useEffect, useRef } from "react";
import { mayAct } from "../../shared/keys";
import { ARROWS } from "../size/wholeOnTable";

/** Arrow keys while the focus is on the light table, or on nothing: before the table moves by them. */
export function useArrows(act: (e: KeyboardEvent) => void): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (!(e.key in ARROWS) || e.ctrlKey || e.metaKey || e.altKey) return;
      const focused = document.activeElement;
      const onTable = focused?.closest("[role=application]");
      if (!(onTable || focused === document.body) || !mayAct("a", focused)) return;
      e.preventDefault();
      e.stopPropagation();
      latest.current(e);
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, []);
}
