import { useMemo, useState } from "react";

/** What the hand does; nothing of it is kept. */
export function useWays() {
  /** Picking a colour from the picture for the colourway that is chosen. */
  const [picking, setPicking] = useState(false);
  return useMemo(() => ({ picking, setPicking }), [picking]);
}

export type WayTools = ReturnType<typeof useWays>;
