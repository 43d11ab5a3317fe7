import { useEffect, useRef } from "react";

/** Follows something by server-sent events until it has ended. A lost connection is taken up again by itself. */
export function useEvents<T>(
  url: string | null,
  changed: (value: T) => void,
  ended: (value: T) => boolean,
): void {
  const tell = useRef({ changed, ended });
  useEffect(() => {
    tell.current = { changed, ended };
  });
  useEffect(() => {
    if (!url) return;
    const events = new EventSource(url);
    events.onmessage = (e: MessageEvent<string>) => {
      const value = JSON.parse(e.data) as T;
      if (tell.current.ended(value)) events.close();
      tell.current.changed(value);
    };
    return () => events.close();
  }, [url]);
}
