import {
  useEffect,
  useLayoutEffect,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
} from "react";
import { pan, stepZoom, zoomAt, type Box, type Placed } from "../../table/geometry";
import { type Table } from "./useTable";

/** How far an arrow key moves the table, in pixels. */
const STEP: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [60, 0],
  ArrowRight: [-60, 0],
  ArrowUp: [0, 60],
  ArrowDown: [0, -60],
};

/** The table is moved and zoomed by pointer, wheel and keys: handlers for its frame. */
export function useMoving(
  frame: RefObject<HTMLDivElement | null>,
  { view, setView }: Table,
  placed: Placed | null,
  box: Box,
) {
  // React's wheel listener is passive; zooming must keep the page from scrolling.
  const wheel = useRef<(e: WheelEvent) => void>(() => undefined);
  useLayoutEffect(() => {
    wheel.current = (e) => {
      e.preventDefault();
      if (!placed) return;
      setView(zoomAt(placed, box, positionIn(frame.current!, e), stepZoom(placed.zoom, e.deltaY < 0)));
    };
  });
  useEffect(() => {
    const element = frame.current!;
    const listen = (e: WheelEvent) => wheel.current(e);
    element.addEventListener("wheel", listen, { passive: false });
    return () => element.removeEventListener("wheel", listen);
  }, [frame]);

  // From where it was taken hold of: however many moves come between two drawings, none is lost.
  const drag = useRef<{ x: number; y: number; view: typeof view; placed: Placed } | null>(null);
  return {
    onPointerDown: (e: PointerEvent) => {
      if (e.button !== 0 && e.button !== 1) return;
      if (placed) drag.current = { x: e.clientX, y: e.clientY, view, placed };
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    /** To be called with every move of the pointer. */
    dragTo: (e: PointerEvent) => {
      const from = drag.current;
      if (from) setView(pan(from.view, from.placed, box, e.clientX - from.x, e.clientY - from.y));
    },
    onPointerUp: () => {
      drag.current = null;
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (!placed) return;
      const by = STEP[e.key];
      if (by) setView(pan(view, placed, box, by[0], by[1]));
      else if (e.key === "+" || e.key === "-" || e.key === "=") {
        const middle: [number, number] = [box.width / 2, box.height / 2];
        setView(zoomAt(placed, box, middle, stepZoom(placed.zoom, e.key !== "-")));
      } else return;
      e.preventDefault();
    },
  };
}

/** Where an event is, in pixels from an element's top left. */
export function positionIn(element: Element, e: Pick<MouseEvent, "clientX" | "clientY">): [number, number] {
  const { left, top } = element.getBoundingClientRect();
  return [e.clientX - left, e.clientY - top];
}
