import { useCallback, useState } from "react";
import { NO_GUIDES, type Guides } from "./snapping";

const keyOf = (routeId: string): string => `hard-line guides ${routeId}`;

function kept(routeId: string): Guides {
  try {
    const read = JSON.parse(localStorage.getItem(keyOf(routeId)) ?? "null") as Partial<Guides> | null;
    const numbers = (of: unknown): number[] =>
      Array.isArray(of) ? of.filter((v) => typeof v === "number" && Number.isFinite(v)) : [];
    return read ? { x: numbers(read.x), y: numbers(read.y), locked: read.locked === true } : NO_GUIDES;
  } catch {
    return NO_GUIDES;
  }
}

/** Guides of a route, kept in this browser. */
export function useGuides(routeId: string): [Guides, (guides: Guides) => void] {
  const [guides, setGuides] = useState(() => kept(routeId));
  const put = useCallback(
    (next: Guides) => {
      setGuides(next);
      try {
        localStorage.setItem(keyOf(routeId), JSON.stringify(next));
      } catch {
        // They last as long as the page, then.
      }
    },
    [routeId],
  );
  return [guides, put];
}
