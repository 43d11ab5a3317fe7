import {
  type DoneView,
  type InvitationView,
  type NewTokenView,
  type PersonView,
  type Right,
  type Role,
  type Scope,
  type SessionView,
  type TimeKeyView,
  type TokenView,
} from "@hardline/contract";
import { useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { ask } from "./client";

const SESSION = ["session"];

/** Who is at this browser. It is asked once, and again when the server says that nobody is known. */
export const useSession = () =>
  useQuery({
    queryKey: SESSION,
    queryFn: () => ask<SessionView>("/api/session"),
    staleTime: Infinity,
  });

/** As long as it is not known, as if it were so: the server decides. */
const may = (view: SessionView | undefined, right: Right): boolean =>
  !view?.person || view.rights.includes(right);

/** Whether whoever is here may do something. */
export const useMay = (right: Right): boolean => may(useSession().data, right);
export const mayNow = (queries: QueryClient, right: Right): boolean =>
  may(queries.getQueryData<SessionView>(SESSION), right);

export const askWhoIsThere = (queries: QueryClient): void =>
  void queries.invalidateQueries({ queryKey: SESSION });

/** Ways in and out; after each it is known who is there. */
export function useDoor() {
  const queries = useQueryClient();
  const take = (view: SessionView) => queries.setQueryData(SESSION, view);
  const post =
    <Given>(path: string) =>
    (json: Given) =>
      ask<SessionView>(path, { method: "POST", json });
  return {
    signIn: useMutation({
      mutationFn: post<{ name: string; password: string; code?: string }>("/api/session"),
      onSuccess: take,
    }),
    first: useMutation({
      mutationFn: post<{ code: string; name: string; password: string }>("/api/first-owner"),
      onSuccess: take,
    }),
    change: useMutation({
      mutationFn: post<{ personId: string; pin: string }>("/api/session/person"),
      onSuccess: take,
    }),
    signOut: useMutation({
      mutationFn: (everywhere: boolean) =>
        ask<void>(everywhere ? "/api/own/sessions" : "/api/session", { method: "DELETE" }),
      onSuccess: () => window.location.assign("/"),
    }),
  };
}

export const invitedName = (code: string) =>
  ask<{ name: string }>(`/api/invitations/${encodeURIComponent(code)}`);
export const joinBy = (code: string, password: string) =>
  ask<SessionView>(`/api/invitations/${encodeURIComponent(code)}`, { method: "POST", json: { password } });

/** What one has to come in by. */
export function useOwn() {
  const queries = useQueryClient();
  const known = () => askWhoIsThere(queries);
  return {
    password: useMutation({
      mutationFn: (json: { old: string; password: string }) =>
        ask<void>("/api/own/password", { method: "PUT", json }),
    }),
    pin: useMutation({
      mutationFn: (json: { password: string; pin?: string }) =>
        ask<void>("/api/own/pin", { method: "PUT", json }),
      onSuccess: known,
    }),
    timeKey: useMutation({
      mutationFn: (password: string) =>
        ask<TimeKeyView>("/api/own/second-factor", { method: "POST", json: { password } }),
    }),
    confirm: useMutation({
      mutationFn: (code: string) => ask<void>("/api/own/second-factor", { method: "PUT", json: { code } }),
      onSuccess: known,
    }),
    drop: useMutation({
      mutationFn: (password: string) =>
        ask<void>("/api/own/second-factor", { method: "DELETE", json: { password } }),
      onSuccess: known,
    }),
  };
}

export const usePeople = () =>
  useQuery({ queryKey: ["people"], queryFn: () => ask<PersonView[]>("/api/people") });

export function usePeopleChange() {
  const queries = useQueryClient();
  const onSuccess = () => void queries.invalidateQueries({ queryKey: ["people"] });
  const at = (id: string) => `/api/people/${id}`;
  return {
    invite: useMutation({
      mutationFn: (json: { name: string; role: Role }) =>
        ask<InvitationView>("/api/people", { method: "POST", json }),
      onSuccess,
    }),
    change: useMutation({
      mutationFn: ({ id, ...json }: { id: string; name?: string; role?: Role }) =>
        ask<PersonView>(at(id), { method: "PATCH", json }),
      onSuccess,
    }),
    invitation: useMutation({
      mutationFn: (id: string) => ask<InvitationView>(`${at(id)}/invitation`, { method: "POST" }),
      onSuccess,
    }),
    signOut: useMutation({
      mutationFn: (id: string) => ask<PersonView>(`${at(id)}/sessions`, { method: "DELETE" }),
      onSuccess,
    }),
    leave: useMutation({
      mutationFn: (id: string) => ask<PersonView>(at(id), { method: "DELETE" }),
      onSuccess,
    }),
  };
}

export const useTokens = (asked: boolean) =>
  useQuery({ queryKey: ["tokens"], queryFn: () => ask<TokenView[]>("/api/tokens"), enabled: asked });

export function useTokenChange() {
  const queries = useQueryClient();
  const onSuccess = () => void queries.invalidateQueries({ queryKey: ["tokens"] });
  return {
    add: useMutation({
      mutationFn: (json: { name: string; scopes: readonly Scope[] }) =>
        ask<NewTokenView>("/api/tokens", { method: "POST", json }),
      onSuccess,
    }),
    remove: useMutation({
      mutationFn: (id: string) => ask<TokenView>(`/api/tokens/${id}`, { method: "DELETE" }),
      onSuccess,
    }),
  };
}

/** What was done in the shop between two moments. */
export const useJournal = (from: string, to: string, person: string | null) =>
  useQuery({
    queryKey: ["journal", from, to, person],
    queryFn: () =>
      ask<DoneView[]>(`/api/journal?from=${from}&to=${to}${person === null ? "" : `&person=${person}`}`),
  });
