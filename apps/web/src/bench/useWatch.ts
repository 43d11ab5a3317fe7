import { type WatchView } from "@hardline/contract";
import { changesBetween } from "@hardline/core/route/changes";
import { stageById } from "@hardline/core/stage/stages";
import { notifications } from "@mantine/notifications";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { type RouteKeeper } from "./RouteKeeper";

/** So many changes of somebody else are told in words; of more it is told how many. */
const MOST_TOLD = 3;
/** A stream that was refused is asked for again after so long, in milliseconds. */
const AGAIN_MS = 3000;

/**
 * Who else is at a ticket, and word of what they change: it is shown here without being asked for. While the page is seen,
 * others see that somebody is here.
 */
export function useWatch(ticketId: string, routeId: string, keeper: RouteKeeper): WatchView | null {
  const queries = useQueryClient();
  const [view, setView] = useState<WatchView | null>(null);
  const newest = useRef<WatchView | null>(null);
  useEffect(() => {
    let events: EventSource | null = null;
    let again: ReturnType<typeof setTimeout> | undefined;
    const take = ({ data }: MessageEvent<string>): void => {
      const now = JSON.parse(data) as WatchView;
      const before = newest.current;
      newest.current = now;
      setView(now);
      const own = now.routes.find((r) => r.id === routeId);
      if (own) void keeper.heard(own.version);
      const named = (of: WatchView | null) => of?.routes.map((r) => `${r.id} ${r.revision}`).join();
      if (before && named(before) !== named(now))
        void queries.invalidateQueries({ queryKey: ["ticket", ticketId] });
      if (before && before.comments !== now.comments)
        void queries.invalidateQueries({ queryKey: ["comments", ticketId] });
    };
    const seen = (): void => {
      clearTimeout(again);
      events?.close();
      events = null;
      if (document.hidden) return;
      events = new EventSource(`/api/tickets/${ticketId}/watch?route=${routeId}`);
      events.onmessage = take;
      // Refused, as after signing out, the browser does not try again by itself.
      events.onerror = () => {
        if (events?.readyState === EventSource.CLOSED) again = setTimeout(seen, AGAIN_MS);
      };
    };
    seen();
    document.addEventListener("visibilitychange", seen);
    return () => {
      clearTimeout(again);
      events?.close();
      document.removeEventListener("visibilitychange", seen);
    };
  }, [ticketId, routeId, keeper, queries]);
  useEffect(
    () =>
      keeper.onMet((was, now) => {
        const changes = changesBetween(was, now);
        const who = newest.current?.routes.find((r) => r.id === routeId)?.by.name ?? "Somebody";
        const words = changes
          .slice(0, MOST_TOLD)
          .map(({ stage, words: said }) => (stage === "route" ? said : `${stageById(stage).title}: ${said}`));
        const more = changes.length > MOST_TOLD ? `and ${changes.length - MOST_TOLD} more` : "";
        notifications.show({
          id: "met",
          title: `${who} changed this route`,
          message: [...words, more].filter(Boolean).join("; "),
          autoClose: 8000,
        });
      }),
    [keeper, routeId],
  );
  return view;
}
