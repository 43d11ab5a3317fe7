import { useEffect, useRef } from "react";
import { type Box } from "../../table/geometry";

/** Room that is left on the table for its bars, and beside what is dragged. */
const [MARGIN, HEAD] = [36, 52];
export const FOOT = 76;

/** Where on the table something lies that is as large as it fits. */
export function fitted(table: Box, whole: Box) {
  const zoom = Math.min(
    (table.width - 2 * MARGIN) / whole.width,
    (table.height - HEAD - FOOT) / whole.height,
  );
  const [width, height] = [whole.width * zoom, whole.height * zoom];
  return {
    x: Math.round((table.width - width) / 2),
    y: Math.round(HEAD + (table.height - HEAD - FOOT - height) / 2),
    width,
    height,
  };
}

/** Arrow keys, and which way each goes. */
export const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** While a tool is in hand, arrows, Enter and some other keys are its own, before the light table has them. */
export function useToolKeys(others: readonly string[], act: (e: KeyboardEvent) => void): void {
  const latest = useRef({ others, act });
  useEffect(() => {
    latest.current = { others, act };
  });
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const own = e.key in ARROWS || e.key === "Enter" || latest.current.others.includes(e.key);
      if (!own || e.ctrlKey || e.metaKey || e.altKey) return;
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLButtonElement) return;
      e.preventDefault();
      e.stopPropagation();
      latest.current.act(e);
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, []);
}
