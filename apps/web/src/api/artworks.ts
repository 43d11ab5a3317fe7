import { type ArrivalView, type ArtworkView } from "@hardline/contract";
import { MOST_ARTWORK_BYTES } from "@hardline/contract/constants";
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
