import { type NewTicket, type RouteView, type TicketChange, type TicketView } from "@hardline/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { takeIn, type TakingIn } from "./artworks";
import { ask } from "./client";

export const useTickets = (archived: boolean) =>
  useQuery({
    queryKey: ["tickets", { archived }],
    queryFn: () => ask<TicketView[]>(`/api/tickets?archived=${archived}`),
  });

export const useTicket = (id: string) =>
  useQuery({ queryKey: ["ticket", id], queryFn: () => ask<TicketView>(`/api/tickets/${id}`) });

export const useRouteView = (id: string | undefined) =>
  useQuery({
    queryKey: ["route", id],
    queryFn: () => ask<RouteView>(`/api/routes/${id}`),
    enabled: id !== undefined,
    // The bench holds the live copy from here on; what it saves it knows itself.
    staleTime: Infinity,
    gcTime: 0,
  });

export function useTicketChange(id: string) {
  const queries = useQueryClient();
  const keep = (ticket: TicketView) => {
    queries.setQueryData(["ticket", id], ticket);
    void queries.invalidateQueries({ queryKey: ["tickets"] });
  };
  return {
    change: useMutation({
      mutationFn: (change: TicketChange) =>
        ask<TicketView>(`/api/tickets/${id}`, { method: "PATCH", json: change }),
      onSuccess: keep,
    }),
    archive: useMutation({
      mutationFn: (away: boolean) =>
        ask<TicketView>(`/api/tickets/${id}/${away ? "archive" : "restore"}`, { method: "POST" }),
      onSuccess: keep,
    }),
  };
}

/** Takes in a file as artwork and starts a ticket with it. */
export async function startTicket(
  file: File,
  known: Partial<NewTicket> = {},
  told?: (how: TakingIn) => void,
): Promise<TicketView> {
  const artwork = await takeIn(file, told);
  return ask<TicketView>("/api/tickets", { method: "POST", json: { ...known, artworkId: artwork.id } });
}
