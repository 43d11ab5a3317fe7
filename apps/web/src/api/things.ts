import {
  type ArtworkView,
  type NewPlace,
  type NewThing,
  type PhotoView,
  type PlaceView,
  type ThingView,
} from "@hardline/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask } from "./client";

/** The shop's own things, each on a photograph. */
export const useThings = () =>
  useQuery({ queryKey: ["things"], queryFn: () => ask<ThingView[]>("/api/things") });
/** The shop's own places for prints. */
export const usePlaces = () =>
  useQuery({ queryKey: ["places"], queryFn: () => ask<PlaceView[]>("/api/places") });

/** Keeps an artwork that was taken in as a photograph of a thing. */
export const keepPhoto = ({ id }: ArtworkView, ticketId: string): Promise<PhotoView> =>
  ask<PhotoView>("/api/photos", { method: "POST", json: { artworkId: id, ticketId } });

export function useThingChange() {
  const queries = useQueryClient();
  const renew = (key: string) => () => void queries.invalidateQueries({ queryKey: [key] });
  return {
    keep: useMutation({
      mutationFn: (thing: NewThing) => ask<ThingView>("/api/things", { method: "POST", json: thing }),
      onSuccess: renew("things"),
    }),
    remove: useMutation({
      mutationFn: (id: string) => ask<void>(`/api/things/${id}`, { method: "DELETE" }),
      onSuccess: renew("things"),
    }),
    keepPlace: useMutation({
      mutationFn: (place: NewPlace) => ask<PlaceView>("/api/places", { method: "POST", json: place }),
      onSuccess: renew("places"),
    }),
    removePlace: useMutation({
      mutationFn: (id: string) => ask<void>(`/api/places/${id}`, { method: "DELETE" }),
      onSuccess: renew("places"),
    }),
  };
}
