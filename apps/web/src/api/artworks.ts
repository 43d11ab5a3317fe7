import {
  type ArrivalView,
  type ArtworkPaths,
  type ArtworkView,
  type ChosenPage,
  type PageView,
} from "@hardline/contract";
import { MOST_ARTWORK_BYTES } from "@hardline/contract/constants";
import { useQuery } from "@tanstack/react-query";
import { ask } from "./client";

const LOOK_MS = 400;

/** How far a file is: nothing is known of that until it has been sent. */
export interface TakingIn {
  readonly doing: string;
  readonly progress: number | null;
}

/**
 * Takes in a file as artwork. A large one is taken in beside everything else, and followed until it is there.
 * @throws Error when it is too large, or cannot be read, with why
 */
export async function takeIn(file: File, told?: (how: TakingIn) => void): Promise<ArtworkView> {
  if (file.size > MOST_ARTWORK_BYTES)
    throw new Error(`${file.name} has ${(file.size / 1048576).toFixed(0)} MB; 200 MB or less is taken.`);
  told?.({ doing: "sending it", progress: null });
  const answer = await ask<ArtworkView | ArrivalView>(`/api/artworks?name=${encodeURIComponent(file.name)}`, {
    method: "POST",
    body: file,
    headers: { "Content-Type": "application/octet-stream" },
  });
  if (!("state" in answer)) return answer;
  for (let arrival = answer; ; arrival = await ask<ArrivalView>(`/api/arrivals/${arrival.id}`)) {
    if (arrival.artwork) return arrival.artwork;
    if (arrival.state === "failed") throw new Error(arrival.error ?? "It could not be read.");
    told?.({ doing: arrival.doing, progress: arrival.progress });
    await new Promise((go) => setTimeout(go, LOOK_MS));
  }
}

/** The pages of the file that an artwork is of. */
export const usePages = (artworkId: string) =>
  useQuery({
    queryKey: ["artworks", artworkId, "pages"],
    queryFn: () => ask<PageView[]>(`/api/artworks/${artworkId}/pages`),
    staleTime: Infinity,
  });

/** Where a small picture of a page is. */
export const pagePicture = (artworkId: string, { page, box, layers }: ChosenPage): string => {
  // None at all is asked for by a name that is empty.
  const drawn =
    layers && (layers.length > 0 ? layers : [""]).map((name) => `&layers=${encodeURIComponent(name)}`);
  return `/api/artworks/${artworkId}/pages/${page}?box=${box}${drawn?.join("") ?? ""}`;
};

/** Takes a page of an artwork's file as an artwork of its own. */
export const choosePage = (artworkId: string, page: ChosenPage): Promise<ArtworkView> =>
  ask<ArtworkView>(`/api/artworks/${artworkId}/pages`, { method: "POST", json: page });

/** The paths that an artwork made of shapes has of its own. */
export const useOwnPaths = (artwork: ArtworkView) =>
  useQuery({
    queryKey: ["artworks", artwork.id, "paths"],
    queryFn: () => ask<ArtworkPaths>(`/api/artworks/${artwork.id}/paths`),
    enabled: artwork.vector,
    staleTime: Infinity,
  });
