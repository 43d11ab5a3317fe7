import { useLayoutEffect, useRef, useState, type RefObject } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Shown } from "../../engine/protocol";
import { type Box, type Placed } from "../../table/geometry";
import { ShiftedLayer } from "../../table/ShiftedLayer";
import { useSettled } from "../../table/useSettled";
import { type PathStore } from "./drawPaths";
import { drawTable } from "./drawTable";
import { type Table } from "./useTable";

interface Drawn {
  readonly engine: BenchEngine | null;
  readonly shown: Shown | null;
  readonly table: Table;
  readonly paths: PathStore;
  readonly placed: Placed | null;
  readonly room: Box;
  readonly wiped: boolean;
  /** Another route lies right of this many pixels; null while none does. */
  readonly splitAt: number | null;
  readonly hatched: boolean;
}

/** Keeps the table's picture drawn: a new one as it comes, a draft too; the rest of the interface follows with the exact. */
export function useDrawn(canvas: RefObject<HTMLCanvasElement | null>, drawn: Drawn): void {
  const { engine, shown, table, paths, placed, room, wiped, splitAt, hatched } = drawn;
  const { wipe, backing, hidden } = table;
  const newest = useRef<Shown | null>(null);
  const last = useRef<readonly unknown[]>([]);
  const [layer] = useState(() => new ShiftedLayer());
  const [exact, moved] = useSettled(placed ? `${placed.x} ${placed.y}` : "");
  useLayoutEffect(() => {
    newest.current = shown;
  }, [shown, engine]);
  useLayoutEffect(() => {
    const draw = () => {
      if (!canvas.current) return;
      const own = newest.current;
      // The pointer's reading renders the table with every move; the picture is drawn when something of it changed.
      const what = [canvas.current, own, backing.colour, hatched, hidden, room, wipe, wiped, splitAt];
      const where = [placed?.x, placed?.y, placed?.zoom, window.devicePixelRatio, exact];
      const all = [...what, ...where];
      if (all.every((v, k) => v === last.current[k])) return;
      last.current = all;
      const split = splitAt === null ? null : { at: splitAt };
      const look = { ...wipe, on: wiped };
      const lines = { layer, exact, moved };
      drawTable(
        canvas.current,
        room,
        placed,
        own,
        look,
        backing.colour,
        hatched,
        paths,
        hidden,
        split,
        lines,
      );
    };
    draw();
    engine?.whenShown((picture) => {
      paths.take(picture);
      newest.current = picture;
      draw();
    });
  });
}
