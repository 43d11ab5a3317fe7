import {
  type ApprovalView,
  type CommentView,
  type NewComment,
  type OldRouteView,
  type RevisionsView,
} from "@hardline/contract";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

export interface HistoryAsked {
  readonly person: string | null;
  readonly stage: string | null;
}

/** Revisions of a route, the latest first, stretch by stretch; anew when another one stands. */
export const useHistory = (routeId: string, version: number, { person, stage }: HistoryAsked) =>
  useInfiniteQuery({
    queryKey: ["history", routeId, version, person, stage],
    queryFn: ({ pageParam }) => {
      const given = { ...(person ? { person } : {}), ...(stage ? { stage } : {}) };
      const query = new URLSearchParams({ ...given, ...(pageParam ? { before: String(pageParam) } : {}) });
      return ask<RevisionsView>(`/api/routes/${routeId}/revisions?${query.toString()}`);
    },
    initialPageParam: null as number | null,
    getNextPageParam: ({ next }) => next,
    placeholderData: (before) => before,
  });

/** A route as it was. It never changes. */
export const useOldRoute = (routeId: string, revision: number | null) =>
  useQuery({
    queryKey: ["old-route", routeId, revision],
    queryFn: () => ask<OldRouteView>(`/api/routes/${routeId}/revisions/${revision}`),
    enabled: revision !== null,
    staleTime: Infinity,
  });

export function useHistoryChange(routeId: string) {
  const queries = useQueryClient();
  const onSuccess = () => void queries.invalidateQueries({ queryKey: ["history", routeId] });
  const at = (revision: number) => `/api/routes/${routeId}/revisions/${revision}`;
  return {
    name: useMutation({
      mutationFn: ({ revision, name }: { revision: number; name: string }) =>
        ask<void>(`${at(revision)}/name`, { method: "PUT", json: { name } }),
      onSuccess,
    }),
    approve: useMutation({
      mutationFn: ({ revision, by }: { revision: number; by: string }) =>
        ask<ApprovalView>(`${at(revision)}/approvals`, { method: "POST", json: { by } }),
      onSuccess,
    }),
  };
}

export const useComments = (ticketId: string) =>
  useQuery({
    queryKey: ["comments", ticketId],
    queryFn: () => ask<CommentView[]>(`/api/tickets/${ticketId}/comments`),
  });

export function useCommentChange(ticketId: string) {
  const queries = useQueryClient();
  const onSuccess = () => void queries.invalidateQueries({ queryKey: ["comments", ticketId] });
  return {
    add: useMutation({
      mutationFn: (json: NewComment) =>
        ask<CommentView>(`/api/tickets/${ticketId}/comments`, { method: "POST", json }),
      onSuccess,
    }),
    done: useMutation({
      mutationFn: ({ id, is }: { id: string; is: boolean }) =>
        ask<unknown>(`/api/comments/${id}/done`, { method: is ? "POST" : "DELETE" }),
      onSuccess,
    }),
    remove: useMutation({
      mutationFn: (id: string) => ask<unknown>(`/api/comments/${id}`, { method: "DELETE" }),
      onSuccess,
    }),
  };
}
