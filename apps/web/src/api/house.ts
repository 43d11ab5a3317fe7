import {
  type HouseRouteView,
  type MaterialBody,
  type MaterialView,
  type StripView,
} from "@hardline/contract";
import { type Route } from "@hardline/core/route/route";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

export const useMaterials = () =>
  useQuery({ queryKey: ["materials"], queryFn: () => ask<MaterialView[]>("/api/materials") });

export function useMaterialChange() {
  const queries = useQueryClient();
  const done = () => void queries.invalidateQueries({ queryKey: ["materials"] });
  return {
    /** A new one when there is no key. */
    save: useMutation({
      mutationFn: ({ key, version, body }: { key?: string; version?: number; body: MaterialBody }) =>
        key
          ? ask<MaterialView>(`/api/materials/${key}`, { method: "PUT", json: { ...body, version } })
          : ask<MaterialView>("/api/materials", { method: "POST", json: body }),
      onSuccess: done,
    }),
    remove: useMutation({
      mutationFn: (key: string) => ask<void>(`/api/materials/${key}`, { method: "DELETE" }),
      onSuccess: done,
    }),
  };
}

export const useHouseRoutes = () =>
  useQuery({ queryKey: ["house-routes"], queryFn: () => ask<HouseRouteView[]>("/api/house-routes") });

export function useHouseRouteChange() {
  const queries = useQueryClient();
  const done = () => void queries.invalidateQueries({ queryKey: ["house-routes"] });
  return {
    add: useMutation({
      mutationFn: (house: { name: string; route: Route }) =>
        ask<HouseRouteView>("/api/house-routes", { method: "POST", json: house }),
      onSuccess: done,
    }),
    remove: useMutation({
      mutationFn: (id: string) => ask<void>(`/api/house-routes/${id}`, { method: "DELETE" }),
      onSuccess: done,
    }),
  };
}

export const useStrips = (ticketId: string) =>
  useQuery({
    queryKey: ["strips", ticketId],
    queryFn: () => ask<StripView[]>(`/api/tickets/${ticketId}/strips`),
  });

export function useStripRemoval(ticketId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask<void>(`/api/strips/${id}`, { method: "DELETE" }),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["strips", ticketId] }),
  });
}
