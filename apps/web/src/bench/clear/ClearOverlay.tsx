import { type Finish, type Frame } from "@hardline/core";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Shown } from "../../engine/protocol";
import { type Box, type Placed } from "../table/geometry";
import css from "./Clear.module.css";
import { useGapsHand } from "./useGapsHand";
import { useLiftHand } from "./useLiftHand";
import { usePickHand } from "./usePickHand";
import { useShapeHand } from "./useShapeHand";
import { useStrokeHand } from "./useStrokeHand";
import { type ClearTools } from "./useClear";

/** What a tool needs to know of a pointer besides where it is. */
export type Pointing = Pick<PointerEvent, "pointerType" | "pressure" | "shiftKey" | "altKey">;

/** What a tool does with the pointer over the light table, and what it draws there. */
export interface TableHand {
  readonly cursor: string;
  /** One line of help. */
  readonly help: string;
  /** What is drawn now, for whoever looks from outside. */
  readonly told?: string;
  readonly down?: (e: Pointing, x: number, y: number) => void;
  /** Every place on the way, also of those that came together between two drawings of the screen. */
  readonly moved?: (e: Pointing, x: number, y: number) => void;
  readonly up?: () => void;
  readonly left?: () => void;
  readonly twice?: (x: number, y: number) => void;
  /** With the modifier held: up is more. */
  readonly wheel?: (up: boolean) => void;
  readonly draw?: (pen: CanvasRenderingContext2D) => void;
}

export interface HandProps {
  readonly engine: BenchEngine;
  readonly tools: ClearTools;
  readonly finish: Finish;
  readonly frame: Frame;
  readonly placed: Placed;
  readonly box: Box;
  readonly shown: Shown | null;
}

/** The hand of the open Clear stage on the light table. While the space bar is held the table is moved instead. */
export function ClearOverlay(props: HandProps) {
  const { tools, box } = props;
  const { hand, chosen } = tools;
  const kind = hand?.kind === "pick" ? "pick" : (chosen?.op.op ?? null);
  if (kind === null) return null;
  const key = `${kind} ${chosen?.index ?? ""}`;
  if (kind === "pick") return <PickHand key={key} {...props} />;
  if (kind === "gaps") return <GapsHand key={key} {...props} />;
  if (kind === "lift") return <LiftHand key={key} {...props} />;
  if (kind === "path") return <ShapeHand key={key} {...props} />;
  if (kind === "hold" || kind === "brush" || kind === "cutOut") return <StrokeHand key={key} {...props} />;
  return <Surface hand={{ cursor: "grab", help: "" }} box={box} />;
}

const PickHand = (props: HandProps) => <Surface hand={usePickHand(props)} box={props.box} />;
const GapsHand = (props: HandProps) => <Surface hand={useGapsHand(props)} box={props.box} />;
const LiftHand = (props: HandProps) => <Surface hand={useLiftHand(props)} box={props.box} />;
const ShapeHand = (props: HandProps) => <Surface hand={useShapeHand(props)} box={props.box} />;
const StrokeHand = (props: HandProps) => <Surface hand={useStrokeHand(props)} box={props.box} />;

function Surface({ hand, box }: { hand: TableHand; box: Box }) {
  const element = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [moving, setMoving] = useState(false);

  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.code !== "Space" || e.target instanceof HTMLInputElement || e.target instanceof HTMLButtonElement)
        return;
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
        <canvas ref={canvas} />
      </div>
      {hand.help && (
        <div className={css.help} role="note">
          <span>{hand.help}</span>
        </div>
      )}
    </>
  );
}
