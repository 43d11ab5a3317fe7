import { type RenderView } from "@hardline/contract";
import { useEvents } from "../api/useEvents";

/** Follows a render until it is done or failed. */
export const useRenderEvents = (id: string | null, changed: (render: RenderView) => void): void =>
  useEvents(
    id && `/api/renders/${id}/events`,
    changed,
    ({ state }) => state === "done" || state === "failed",
  );
