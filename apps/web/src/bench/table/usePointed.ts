import { useCallback, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { answered } from "../../shared/answered";
import { type Placed } from "../../table/geometry";
import { type Pointed } from "./pointed";

/** Where the pointer is on the table, and what is read of the dot under it. */
export function usePointed(engine: BenchEngine | null, placed: Placed | null) {
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const [pointer, setPointer] = useState<readonly [number, number] | null>(null);
  const pointAt = useCallback(
    async (x: number, y: number) => {
      if (!engine || !placed) return;
      const [dx, dy] = [(x - placed.x) / placed.zoom, (y - placed.y) / placed.zoom];
      setPointer([x, y]);
      setPointed((p) => ({ x: dx, y: dy, reading: p?.reading ?? null }));
      const asked = engine.read(Math.floor(dx), Math.floor(dy));
      const reading = await answered(asked, "The dot under the pointer cannot be read");
      setPointed((p) => (p && p.x === dx && p.y === dy ? { ...p, reading } : p));
    },
    [engine, placed],
  );
  const pointAway = () => (setPointed(null), setPointer(null));
  return { pointed, pointer, pointAt, pointAway };
}
