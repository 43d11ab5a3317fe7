import { type RenderView, type RouteView } from "@hardline/contract";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../api/client";
import { tellFault } from "../shared/tell";
import { useUnit } from "../shared/unit";
import { type RouteKeeper } from "./RouteKeeper";
import { useRenderEvents } from "./useRenderEvents";

/** The hand-overs of a route, newest first, and the way to a new one. */
export function useHandOver(keeper: RouteKeeper, saved: RouteView) {
  const queries = useQueryClient();
  const key = ["renders", saved.id];
  const { data: renders = [] } = useQuery({
    queryKey: key,
    queryFn: () => ask<RenderView[]>(`/api/routes/${saved.id}/renders`),
  });
  const [asking, setAsking] = useState(false);
  const busy = renders.find((r) => r.state === "waiting" || r.state === "running") ?? null;

  useRenderEvents(busy?.id ?? null, (render) => {
    queries.setQueryData<RenderView[]>(key, (old = []) => old.map((r) => (r.id === render.id ? render : r)));
    if (render.state === "done") void queries.invalidateQueries({ queryKey: ["ticket", saved.ticketId] });
  });

  /** Saves what is unsaved and asks the server for the files of exactly that. */
  async function make(): Promise<void> {
    if (busy || asking) return;
    setAsking(true);
    try {
      await keeper.flush();
      if (keeper.get().state !== "saved") {
        throw new Error("The route is not saved yet, so its files would not be what is shown.");
      }
      const { revision } = keeper.get().view;
      const render = await ask<RenderView>(`/api/routes/${saved.id}/renders`, {
        ...{ method: "POST", json: { revision, unit: useUnit.getState().unit } },
      });
      queries.setQueryData<RenderView[]>(key, (old = []) => [render, ...old]);
    } catch (error) {
      keeper.refused(error);
      tellFault("The files were not asked for", error);
    }
    setAsking(false);
  }

  return { renders, busy, asking, make };
}

export type HandOvers = ReturnType<typeof useHandOver>;
