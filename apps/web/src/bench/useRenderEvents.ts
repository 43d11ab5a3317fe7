import { type RenderView } from "@hardline/contract";
import { useEffect, useRef } from "react";

/** Follows a render by server-sent events until it is done or failed. A lost connection is taken up again by itself. */
export function useRenderEvents(id: string | null, changed: (render: RenderView) => void): void {
  const tell = useRef(changed);
  useEffect(() => {
    tell.current = changed;
  });
  useEffect(() => {
    if (!id) return;
    const events = new EventSource(`/api/renders/${id}/events`);
    events.onmessage = (e: MessageEvent<string>) => {
      const render = JSON.parse(e.data) as RenderView;
      if (render.state === "done" || render.state === "failed") events.close();
      tell.current(render);
    };
    return () => events.close();
  }, [id]);
}
