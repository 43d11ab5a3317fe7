import { type MachineView, type RunView } from "@hardline/contract";
import { type RunWish } from "@hardline/core/machine/wish";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

export const useMachines = () =>
  useQuery({ queryKey: ["machines"], queryFn: () => ask<MachineView[]>("/api/machines") });

export const useRecentRuns = () =>
  useQuery({ queryKey: ["runs"], queryFn: () => ask<RunView[]>("/api/runs") });

/** Runs of a ticket or a sheet, newest first. */
export const useRunsOf = (of: "tickets" | "sheets", id: string) =>
  useQuery({ queryKey: ["runs", of, id], queryFn: () => ask<RunView[]>(`/api/${of}/${id}/runs`) });

export interface WantedRun {
  readonly machine: string;
  readonly routeId?: string;
  /** The revision of the route that is seen. */
  readonly revision?: number;
  readonly sheetId?: string;
  readonly sheet?: number;
  readonly wish?: Partial<RunWish>;
}

export const newRun = ({ wish = {}, ...run }: WantedRun): Promise<RunView> =>
  ask<RunView>("/api/runs", { method: "POST", json: { ...run, wish } });

/** What a run may be told. */
export type RunAct = "queue" | "pause" | "resume" | "stop" | "put-away";

export const runAct = (id: string, act: RunAct): Promise<RunView> =>
  ask<RunView>(`/api/runs/${id}/${act}`, { method: "POST" });

export const passAgain = (id: string, pass: string): Promise<RunView> =>
  ask<RunView>(`/api/runs/${id}/again?pass=${encodeURIComponent(pass)}`, { method: "POST" });

export function useMachineChange() {
  const queries = useQueryClient();
  const done = () => void queries.invalidateQueries({ queryKey: ["machines"] });
  return {
    save: useMutation({
      mutationFn: ({ machine, version, host, port, floor }: MachineView) =>
        ask<MachineView>("/api/machines", {
          method: "PUT",
          json: { machine, version, host, port, ...(floor === null ? {} : { floor }) },
        }),
      onSuccess: done,
    }),
    remove: useMutation({
      mutationFn: (key: string) => ask<void>(`/api/machines/${key}`, { method: "DELETE" }),
      onSuccess: done,
    }),
    move: useMutation({
      mutationFn: ({ id, before }: { id: string; before?: string }) =>
        ask<MachineView>(`/api/runs/${id}/place`, { method: "POST", json: before ? { before } : {} }),
      onSuccess: done,
    }),
  };
}
