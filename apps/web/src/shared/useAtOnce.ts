import { useCallback, useRef, useState } from "react";

/**
 * State that a pointer can add to faster than the screen is drawn: `now()` gives what was set last, also between two
 * drawings, when the state of the last drawing would lose what came since.
 */
export function useAtOnce<T>(first: T): readonly [T, (value: T) => void, () => T] {
  const [drawn, setDrawn] = useState(first);
  const last = useRef(first);
  const set = useCallback((value: T) => {
    last.current = value;
    setDrawn(() => value);
  }, []);
  const now = useCallback(() => last.current, []);
  return [drawn, set, now];
}
