import { type RenderView, type SheetView } from "@hardline/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

export const useSheets = () =>
  useQuery({
    queryKey: ["sheets"],
    queryFn: () => ask<SheetView[]>("/api/sheets"),
  });

export const useSheet = (id: string) =>
  useQuery({
    queryKey: ["sheet", id],
    queryFn: () => ask<SheetView>(`/api/sheets/${id}`),
    refetchOnWindowFocus: false,
  });

export function useNewSheet() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (sheet: { name: string; body: object }) =>
      ask<SheetView>("/api/sheets", { method: "POST", json: sheet }),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["sheets"] }),
  });
}

/** A route as a piece for sheets: asked for, and followed until it is made. */
export async function pieceOf(routeId: string, bleedMm: number): Promise<RenderView> {
  let work = await ask<RenderView>(`/api/routes/${routeId}/piece?bleedMm=${bleedMm}`, { method: "POST" });
  while (work.state === "waiting" || work.state === "running") {
    await new Promise((go) => setTimeout(go, 250));
    work = await ask<RenderView>(`/api/renders/${work.id}`);
  }
  if (work.state === "failed") throw new Error(work.error ?? "The piece could not be made.");
  return work;
}
