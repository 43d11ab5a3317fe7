import {
  type RouteView,
  type TicketChange,
  type TicketCounts,
  type TicketsView,
  type TicketState,
  type TicketView,
} from "@hardline/contract";
import { type TicketOrder } from "@hardline/contract/constants";
import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { ask } from "./client";

/** What of the tickets is asked for: see the server's `GET /api/tickets`. */
export interface TicketsAsked {
  readonly state?: TicketState | "all";
  readonly order?: TicketOrder;
  readonly find?: string;
  readonly route?: string;
  readonly customer?: string;
}

const pathOf = (asked: TicketsAsked, more: Readonly<Record<string, string>> = {}): string => {
  const given = Object.entries({ ...asked, ...more }).filter(
    ([, value]) => value !== undefined && value !== "",
  );
  return `/api/tickets?${new URLSearchParams(given as [string, string][]).toString()}`;
};

/** Tickets in their order, stretch by stretch; what was shown stays until what is asked for now is there. */
export const useTickets = (asked: TicketsAsked) =>
  useInfiniteQuery({
    queryKey: ["tickets", asked],
    queryFn: ({ pageParam }) => ask<TicketsView>(pathOf(asked, pageParam ? { after: pageParam } : {})),
    initialPageParam: null as string | null,
    getNextPageParam: ({ next }) => next,
    placeholderData: keepPreviousData,
  });

/** How many tickets are in each state, of those that a search finds. */
export const useTicketCounts = (find: string) =>
  useQuery({
    queryKey: ["tickets", "counts", find],
    queryFn: () => ask<TicketCounts>(`/api/tickets/counts?find=${encodeURIComponent(find)}`),
    placeholderData: keepPreviousData,
  });

/** The first tickets on the board that a question finds: as many as a list to choose from holds. */
export const useSomeTickets = (asked: TicketsAsked) =>
  useQuery({
    queryKey: ["tickets", "some", asked],
    queryFn: async () => (await ask<TicketsView>(pathOf(asked))).tickets,
    placeholderData: keepPreviousData,
  });

/** Every ticket on the board with a route of a name. */
export const useTicketsOfRoute = (route: string | null) =>
  useQuery({
    queryKey: ["tickets", "route", route],
    queryFn: async () => {
      const all: TicketView[] = [];
      for (let after: string | null = ""; after !== null;) {
        const more: TicketsView = await ask<TicketsView>(pathOf({ route: route! }, { after, most: "500" }));
        all.push(...more.tickets);
        after = more.next;
      }
      return all;
    },
    enabled: route !== null,
  });

/** A ticket; what the board knows of it does until it is there. */
export function useTicket(id: string) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["ticket", id],
    queryFn: () => ask<TicketView>(`/api/tickets/${id}`),
    placeholderData: () =>
      queries
        .getQueriesData<{ pages?: TicketsView[] }>({ queryKey: ["tickets"] })
        .flatMap(([, data]) => data?.pages ?? [])
        .flatMap(({ tickets }) => tickets)
        .find((ticket) => ticket.id === id),
  });
}

/** A route that was asked for while the press that opens it was not yet over, and when. */
let ahead: { readonly id: string; readonly at: number; readonly view: Promise<RouteView | null> } | null =
  null;
/** An answer older than this, in milliseconds, is not taken: somebody may have changed the route since. */
const FRESH_MS = 1000;

const routeNow = (id: string): Promise<RouteView> => ask<RouteView>(`/api/routes/${id}`);

/** Asks for a route of a ticket that is just being opened. */
export function askAhead(id: string): void {
  // What goes wrong is told when it is asked for again.
  ahead = { id, at: performance.now(), view: routeNow(id).catch(() => null) };
}

async function routeOf(id: string): Promise<RouteView> {
  const asked = ahead;
  ahead = null;
  const known = asked?.id === id && performance.now() - asked.at < FRESH_MS ? await asked.view : null;
  return known ?? routeNow(id);
}

export const useRouteView = (id: string | undefined) =>
  useQuery({
    queryKey: ["route", id],
    queryFn: () => routeOf(id!),
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

/** Starts a ticket with an artwork. */
export const startTicket = (artworkId: string): Promise<TicketView> =>
  ask<TicketView>("/api/tickets", { method: "POST", json: { artworkId } });

/** Starts a ticket with an artwork, called so, and with a first route of one's own. */
export async function startTicketWith(
  artworkId: string,
  piece: string,
  first: (route: RouteView["route"]) => RouteView["route"],
): Promise<TicketView> {
  const ticket = await ask<TicketView>("/api/tickets", { method: "POST", json: { artworkId, piece } });
  const [{ id }] = ticket.routes;
  const { route, version } = await ask<RouteView>(`/api/routes/${id}`);
  await ask<RouteView>(`/api/routes/${id}`, { method: "PUT", json: { version, route: first(route) } });
  return ticket;
}
