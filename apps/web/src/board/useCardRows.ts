import { useVirtualizer } from "@tanstack/react-virtual";
import { placeKept } from "./boardView";
import { useLayoutEffect, useRef, useState, type CSSProperties, type RefObject } from "react";

/** A row's height and the space about it, in pixels: of the day's line and the card in Board.module.css. */
const ROW = 108;
const GAP = { x: 10, y: 9 };
const LEAST_CARD = 232;
/** Rows on each side that are in the page though not in sight: as far as a press of a key or a flick of the wheel goes. */
const BEYOND = 6;

/** A stretch of cards, from the first to before the last, and the room that the others take. */
export interface CardRows {
  readonly grid: RefObject<HTMLDivElement | null>;
  readonly from: number;
  readonly to: number;
  readonly style: CSSProperties | undefined;
}

/**
 * Of many cards those that are in sight or near it are in the page; a shop's whole year may be scrolled through.
 *
 * @param few  all are in the page, in a grid of their own
 */
export function useCardRows(scroller: RefObject<HTMLElement | null>, count: number, few: boolean): CardRows {
  const grid = useRef<HTMLDivElement>(null);
  const [{ width, top }, setPlace] = useState({ width: 0, top: 0 });
  useLayoutEffect(() => {
    const measure = (): void => {
      const now = {
        width: grid.current!.clientWidth,
        top: grid.current!.offsetTop - scroller.current!.offsetTop,
      };
      setPlace((was) => (was.width === now.width && was.top === now.top ? was : now));
    };
    measure();
    const seen = new ResizeObserver(measure);
    for (const element of scroller.current!.children) seen.observe(element);
    return () => seen.disconnect();
  }, [scroller, count]);
  const columns = Math.max(1, Math.floor((width + GAP.x) / (LEAST_CARD + GAP.x)));
  // eslint-disable-next-line react-hooks/incompatible-library -- nothing of it is handed on to what is memoized
  const rows = useVirtualizer({
    count: Math.ceil(count / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    gap: GAP.y,
    overscan: BEYOND,
    scrollMargin: top,
    initialOffset: placeKept, // it scrolls there itself when it begins
  });
  if (few) return { grid, from: 0, to: count, style: undefined };
  const there = rows.getVirtualItems();
  const [first, last] = [there[0], there[there.length - 1]];
  return {
    grid,
    from: (first?.index ?? 0) * columns,
    to: last ? Math.min(count, (last.index + 1) * columns) : 0,
    style: {
      gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
      paddingTop: first ? first.start - top : 0,
      paddingBottom: rows.getTotalSize() - (last ? last.end - top : 0),
    },
  };
}
