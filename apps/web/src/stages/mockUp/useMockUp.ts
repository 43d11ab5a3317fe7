import { useMemo, useState } from "react";

/** What the hand does on the table. */
export type MockUpHand =
  /** Prints are dragged and turned. */
  | "prints"
  /** Where a photograph can be printed on is set up. */
  | "area"
  /** Two places that are a known distance apart. */
  | "scale"
  /** What is in front is painted. */
  | "front"
  /** What is in front is taken by its colour. */
  | "frontColour";

export function useMockUp() {
  const [hand, setHand] = useState<MockUpHand>("prints");
  const [chosen, setChosen] = useState(0);
  /** Of the brush, in mm. */
  const [brushMm, setBrush] = useState(10);
  const [paints, setPaints] = useState<"away" | "back">("away");
  return useMemo(
    () => ({ hand, setHand, chosen, setChosen, brushMm, setBrush, paints, setPaints }),
    [hand, chosen, brushMm, paints],
  );
}

export type MockUpTools = ReturnType<typeof useMockUp>;
