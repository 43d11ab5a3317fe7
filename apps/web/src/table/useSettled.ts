import { useCallback, useEffect, useRef, useState } from "react";

const REST_MS = 120;

/**
 * What is drawn exactly once nothing has moved for a moment.
 * @param place  names where things lie now
 * @returns whether that is where they came to rest, and how to say that they moved
 */
export function useSettled(place: string): readonly [boolean, () => void] {
  const [settled, setSettled] = useState("");
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const moved = useCallback(() => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => setSettled(place), REST_MS);
  }, [place]);
  useEffect(() => () => clearTimeout(timer.current), []);
  return [settled === place, moved];
}
