import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { type Box } from "./geometry";
import { type TableHand } from "./hand";
import { mayAct } from "../shared/keys";
import css from "./Surface.module.css";

/**
 * Where a stage's hand works: lies over the picture, takes the pointer, and is drawn on. While the space bar is held
 * the table is moved instead.
 */
export function Surface({ hand, box }: { hand: TableHand; box: Box }) {
  const element = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [moving, setMoving] = useState(false);

  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.code !== "Space" || !mayAct(" ", document.activeElement)) return;
      e.preventDefault();
      setMoving(e.type === "keydown");
    };
    window.addEventListener("keydown", key);
    window.addEventListener("keyup", key);
    return () => {
      window.removeEventListener("keydown", key);
      window.removeEventListener("keyup", key);
    };
  }, []);

  // The table's own wheel listener zooms; with the modifier the wheel is the tool's.
  const wheel = useRef(hand.wheel);
  useLayoutEffect(() => {
    wheel.current = hand.wheel;
  });
  useEffect(() => {
    const own = element.current!;
    const listen = (e: WheelEvent) => {
      if (!(e.altKey || e.ctrlKey) || !wheel.current) return;
      e.preventDefault();
      e.stopPropagation();
      wheel.current(e.deltaY < 0);
    };
    own.addEventListener("wheel", listen, { passive: false });
    return () => own.removeEventListener("wheel", listen);
  }, []);

  useLayoutEffect(() => {
    const ratio = window.devicePixelRatio || 1;
    const own = canvas.current!;
    const [width, height] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
    if (own.width !== width || own.height !== height) [own.width, own.height] = [width, height];
    const pen = own.getContext("2d")!;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, box.width, box.height);
    hand.draw?.(pen);
  });

  const at = (e: Pick<MouseEvent, "clientX" | "clientY">): [number, number] => {
    const { left, top } = element.current!.getBoundingClientRect();
    return [e.clientX - left, e.clientY - top];
  };
  return (
    <>
      <div
        ref={element}
        className={css.overlay}
        data-hand={hand.cursor}
        data-told={hand.told}
        data-rulers={hand.rulers}
        style={{ cursor: moving ? "grab" : hand.cursor, pointerEvents: moving ? "none" : undefined }}
        onPointerDown={(e) => {
          if (e.button !== 0 || !hand.down) return;
          e.stopPropagation();
          e.currentTarget.closest<HTMLElement>("[role=application]")?.focus({ preventScroll: true });
          e.currentTarget.setPointerCapture(e.pointerId);
          hand.down(e, ...at(e));
        }}
        onPointerMove={(e) => {
          if (!hand.moved) return;
          const together = e.buttons === 0 ? [] : e.nativeEvent.getCoalescedEvents();
          for (const one of together.length > 0 ? together : [e]) hand.moved(one, ...at(one));
        }}
        onPointerUp={() => hand.up?.()}
        onPointerLeave={() => hand.left?.()}
        onDoubleClick={(e) => hand.twice?.(...at(e))}
      >
        <canvas ref={canvas} aria-hidden />
      </div>
      {hand.help && (
        <div className={css.help} role="note">
          <span>{hand.help}</span>
        </div>
      )}
    </>
  );
}
