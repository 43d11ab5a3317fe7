import {
  type CustomerChange,
  type CustomerRecord,
  type CustomersView,
  type CustomerView,
  type OrderAgain,
  type OrderAgainView,
  type ReceiptView,
  type TicketView,
} from "@hardline/contract";
import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { ask } from "./client";

const pathOf = (find: string, after: string | null): string =>
  `/api/customers?find=${encodeURIComponent(find)}${after ? `&after=${after}` : ""}`;

/** Customers by name, stretch by stretch. */
export const useCustomers = (find: string) =>
  useInfiniteQuery({
    queryKey: ["customers", find],
    queryFn: ({ pageParam }) => ask<CustomersView>(pathOf(find, pageParam)),
    initialPageParam: null as string | null,
    getNextPageParam: ({ next }) => next,
    placeholderData: keepPreviousData,
  });

/** The first names that begin with, or have in them, what is typed. */
export const useCustomerNames = (find: string, asked: boolean) =>
  useQuery({
    queryKey: ["customers", "names", find],
    queryFn: async () => (await ask<CustomersView>(pathOf(find, null))).customers.slice(0, 8),
    placeholderData: keepPreviousData,
    enabled: asked && find !== "",
  });

export const useCustomer = (id: string) =>
  useQuery({
    queryKey: ["customers", "one", id],
    queryFn: () => ask<CustomerRecord>(`/api/customers/${id}`),
  });

export function useCustomerChange() {
  const queries = useQueryClient();
  const done = () => {
    void queries.invalidateQueries({ queryKey: ["customers"] });
    void queries.invalidateQueries({ queryKey: ["tickets"] });
  };
  return {
    add: useMutation({
      mutationFn: (json: CustomerChange) => ask<CustomerView>("/api/customers", { method: "POST", json }),
      onSuccess: done,
    }),
    change: useMutation({
      mutationFn: ({ id, ...json }: CustomerChange & { id: string }) =>
        ask<CustomerView>(`/api/customers/${id}`, { method: "PATCH", json }),
      onSuccess: done,
    }),
    remove: useMutation({
      mutationFn: (id: string) => ask<ReceiptView>(`/api/customers/${id}`, { method: "DELETE" }),
      onSuccess: () => void queries.invalidateQueries({ queryKey: ["tickets"] }),
    }),
  };
}

/** What of a ticket can be another when it is ordered again. */
export const useOrderAgain = (ticketId: string) =>
  useQuery({
    queryKey: ["again", ticketId],
    queryFn: () => ask<OrderAgainView>(`/api/tickets/${ticketId}/again`),
    staleTime: 0,
  });

export const orderAgain = (ticketId: string, json: OrderAgain): Promise<TicketView> =>
  ask<TicketView>(`/api/tickets/${ticketId}/again`, { method: "POST", json });
