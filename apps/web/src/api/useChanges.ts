import { type ListName, type ListsChanged } from "@hardline/contract/constants";
import { type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

/** What was asked of each list, by the first word of its key. */
const ASKED: Readonly<Record<ListName, readonly string[]>> = {
  tickets: ["tickets"],
  sheets: ["sheets"],
  batches: ["batches"],
  machines: ["machines"],
  runs: ["runs"],
  materials: ["materials", "curves"],
  "house-routes": ["house-routes"],
  fonts: ["fonts"],
  things: ["things", "places"],
  customers: ["customers"],
  people: ["people", "tokens"],
  journal: ["journal"],
};
const LISTS = Object.keys(ASKED) as ListName[];
/** Where nothing is heard of the server, lists are asked for again after so long, in milliseconds. */
const UNHEARD_MS = 5000;

/**
 * Keeps lists as they are now: the server tells which of them changed, and what is seen of them is asked for anew. Only
 * a page that is seen listens, since a browser holds few connections to one server open.
 */
export function useChanges(queries: QueryClient): void {
  useEffect(() => {
    let events: EventSource | null = null;
    const renew = (lists: readonly ListName[]): void => {
      for (const key of lists.flatMap((list) => ASKED[list] ?? []))
        void queries.invalidateQueries({ queryKey: [key] });
    };
    let missed = false;
    const listen = (): void => {
      events?.close();
      events = new EventSource("/api/changes");
      // Whatever changed while nobody listened is not known.
      events.onopen = () => {
        if (missed) renew(LISTS);
        missed = false;
      };
      events.onerror = () => (missed = true);
      events.onmessage = (e: MessageEvent<string>) => renew((JSON.parse(e.data) as ListsChanged).lists);
    };
    const seen = (): void => {
      if (document.hidden) {
        missed = true;
        events?.close();
      } else listen();
    };
    listen();
    document.addEventListener("visibilitychange", seen);
    const unheard = setInterval(() => {
      if (document.hidden || events?.readyState === EventSource.OPEN) return;
      renew(LISTS);
      if (events?.readyState === EventSource.CLOSED) listen();
    }, UNHEARD_MS);
    return () => {
      events?.close();
      document.removeEventListener("visibilitychange", seen);
      clearInterval(unheard);
    };
  }, [queries]);
}
