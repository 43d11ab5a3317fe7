import { type FontView } from "@hardline/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

/** Fonts that words can be set in. */
export const useFonts = () => useQuery({ queryKey: ["fonts"], queryFn: () => ask<FontView[]>("/api/fonts") });

export function useFontChange() {
  const queries = useQueryClient();
  const done = () => void queries.invalidateQueries({ queryKey: ["fonts"] });
  return {
    add: useMutation({
      mutationFn: (file: File) =>
        ask<FontView>("/api/fonts", {
          method: "POST",
          body: file,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      onSuccess: done,
    }),
    remove: useMutation({
      mutationFn: (key: string) => ask<void>(`/api/fonts/${key}`, { method: "DELETE" }),
      onSuccess: done,
    }),
  };
}
