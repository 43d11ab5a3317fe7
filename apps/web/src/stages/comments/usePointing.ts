import { useMemo, useState } from "react";

/** A place that a comment is to have, and whether the hand is looking for one. */
export function usePointing() {
  const [pointing, setPointing] = useState(false);
  const [place, setPlace] = useState<readonly [number, number] | null>(null);
  const [shown, setShown] = useState<string | null>(null);
  return useMemo(
    () => ({ pointing, setPointing, place, setPlace, shown, setShown }),
    [pointing, place, shown],
  );
}

export type Pointing = ReturnType<typeof usePointing>;
