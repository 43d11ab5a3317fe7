import { type BatchItemView, type BatchView } from "@hardline/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { tellFault } from "../shared/tell";
import { ask } from "./client";

export const useBatches = () =>
  useQuery({ queryKey: ["batches"], queryFn: () => ask<BatchView[]>("/api/batches") });

export const useBatchItems = (id: string | null) =>
  useQuery({
    queryKey: ["batches", id, "items"],
    queryFn: () => ask<BatchItemView[]>(`/api/batches/${id}/items`),
    enabled: id !== null,
  });

export interface NewItem {
  readonly name: string;
  readonly artworkId?: string;
  readonly text?: string;
  /** What fields of the route are filled with, by their names. */
  readonly fields?: Readonly<Record<string, string>>;
}

export const newBatch = (name: string, houseRouteId: string, items: readonly NewItem[]): Promise<BatchView> =>
  ask<BatchView>("/api/batches", { method: "POST", json: { name, houseRouteId, items } });

/** A route of a ticket, run for every line of a table. */
export const newBatchOfRoute = (
  name: string,
  routeId: string,
  items: readonly NewItem[],
): Promise<BatchView> => ask<BatchView>("/api/batches", { method: "POST", json: { name, routeId, items } });

/** What a batch may be told. */
export type BatchAct = "stop" | "resume" | "resume?failed=1";

export function useBatchAct(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (act: BatchAct) => ask<BatchView>(`/api/batches/${id}/${act}`, { method: "POST" }),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["batches"] }),
    onError: (e) => tellFault("That was not done", e),
  });
}
