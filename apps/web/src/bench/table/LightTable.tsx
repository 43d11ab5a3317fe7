import { type Finish, type Level, type Place, type Route, type StageId } from "@hardline/core";
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Pane, type Shown } from "../../engine/protocol";
import { titleOf } from "../../stages/faces";
import { useCalibration } from "./calibration";
import { css as colourText } from "./colour";
import { PathStore } from "./drawPaths";
import { drawTable } from "./drawTable";
import { pan, place, stepZoom, visible, zoomAt, type Box, type Placed } from "./geometry";
import { LayerSwitches } from "./LayerSwitches";
import css from "./LightTable.module.css";
import { Loupe } from "./Loupe";
import { PlaceTags } from "./PlaceTags";
import { type Pointed } from "./pointed";
import { TableBar } from "./TableBar";
import { type Table } from "./useTable";
import { WipeEdge } from "./WipeEdge";

interface Props {
  readonly engine: BenchEngine | null;
  readonly route: Route;
  readonly finish: Finish | null;
  readonly shown: Shown | null;
  readonly fault: string | null;
  readonly progress: { readonly share: number; readonly stage: StageId } | null;
  readonly table: Table;
  readonly before: StageId;
  readonly after: StageId;
  readonly places: readonly Place[] | null;
  readonly level: Level;
  /** How a stage's own drawing shows its result. */
  readonly view: (stage: StageId) => unknown;
  readonly hatched: boolean;
  /** What the open stage lays over the picture. */
  readonly over?: (placed: Placed, box: Box) => ReactNode;
}

/** The picture, at any zoom, as the stages left and right of the wipe give it. */
export function LightTable({
  engine,
  route,
  finish,
  shown,
  fault,
  progress,
  table,
  before,
  after,
  places,
  level,
  view: viewOf,
  hatched,
  over,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [paths] = useState(() => new PathStore());
  const { pixelsPerMm } = useCalibration();
  const { view, setView, box, setBox, wipe, backing, hidden } = table;
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const [pointer, setPointer] = useState<readonly [number, number] | null>(null);
  const placed = finish && place(view, box, finish, pixelsPerMm);

  useLayoutEffect(() => {
    const element = frame.current!;
    const measure = () => setBox({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [setBox]);

  // Ask for exactly what is to be seen, at the screen's own pixels.
  const seen = placed && visible(placed, box);
  const stages = wipe.on && before !== after ? [after, before] : [after];
  const ratio = window.devicePixelRatio || 1;
  const panes = seen
    ? stages.map((stage): Pane => ({
        stage,
        part: seen.part,
        width: Math.round(seen.on.width * ratio),
        height: Math.round(seen.on.height * ratio),
        base: backing.colour,
        view: viewOf(stage),
        hidden,
      }))
    : [];
  const wanted = JSON.stringify(panes);
  useLayoutEffect(() => {
    if (engine && panes.length > 0) engine.show({ route, panes });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `wanted` stands for all that is seen
  }, [engine, route, wanted]);

  // A new picture is drawn as it comes, a draft too; the rest of the interface follows with the exact.
  const newest = useRef<Shown | null>(null);
  useLayoutEffect(() => {
    newest.current = shown;
  }, [shown, engine]);
  useLayoutEffect(() => {
    const draw = () => {
      if (!canvas.current) return;
      drawTable(canvas.current, box, placed, newest.current, wipe, backing.colour, hatched, paths, hidden);
    };
    draw();
    engine?.whenShown((picture) => {
      paths.take(picture);
      newest.current = picture;
      draw();
    });
  });

  const readAt = useCallback(
    async (x: number, y: number) => {
      if (!engine || !placed) return;
      const [dx, dy] = [(x - placed.x) / placed.zoom, (y - placed.y) / placed.zoom];
      setPointer([x, y]);
      setPointed((p) => ({ x: dx, y: dy, reading: p?.reading ?? null }));
      const reading = await engine.read(Math.floor(dx), Math.floor(dy)).catch(() => null);
      setPointed((p) => (p && p.x === dx && p.y === dy ? { ...p, reading } : p));
    },
    [engine, placed],
  );

  // React's wheel listener is passive; zooming must keep the page from scrolling.
  const wheel = useRef<(e: WheelEvent) => void>(() => undefined);
  useLayoutEffect(() => {
    wheel.current = (e) => {
      e.preventDefault();
      if (!placed) return;
      const at = positionIn(frame.current!, e);
      setView(zoomAt(placed, box, at, stepZoom(placed.zoom, e.deltaY < 0)));
    };
  });
  useEffect(() => {
    const element = frame.current!;
    const listen = (e: WheelEvent) => wheel.current(e);
    element.addEventListener("wheel", listen, { passive: false });
    return () => element.removeEventListener("wheel", listen);
  }, []);

  // From where it was taken hold of: however many moves come between two drawings, none is lost.
  const drag = useRef<{ x: number; y: number; view: typeof view; placed: Placed } | null>(null);
  return (
    <div className={css.table}>
      <div
        ref={frame}
        className={css.frame}
        tabIndex={0}
        role="application"
        aria-label={`Light table, ${titleOf(after)}. Arrow keys move, plus and minus zoom.`}
        onPointerDown={(e) => {
          if (e.button !== 0 && e.button !== 1) return;
          if (placed) drag.current = { x: e.clientX, y: e.clientY, view, placed };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          const from = drag.current;
          if (from) setView(pan(from.view, from.placed, box, e.clientX - from.x, e.clientY - from.y));
          void readAt(...positionIn(e.currentTarget, e.nativeEvent));
        }}
        onPointerUp={() => (drag.current = null)}
        onPointerLeave={() => (setPointed(null), setPointer(null))}
        onKeyDown={(e) => {
          if (!placed) return;
          const by = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] }[
            e.key
          ];
          if (by) setView(pan(view, placed, box, by[0], by[1]));
          else if (e.key === "+" || e.key === "-" || e.key === "=") {
            setView(
              zoomAt(placed, box, [box.width / 2, box.height / 2], stepZoom(placed.zoom, e.key !== "-")),
            );
          } else return;
          e.preventDefault();
        }}
      >
        <canvas
          ref={canvas}
          className={css.canvas}
          role="img"
          aria-label={`The picture as ${titleOf(after)} has it`}
        />
        {placed && over?.(placed, box)}
        {placed && finish && places && <PlaceTags {...{ placed, finish, places, level }} />}
        {wipe.on ? (
          <WipeEdge {...{ table, before, after }} />
        ) : (
          <span className={css.label}>{titleOf(after)}</span>
        )}
        <Loupe
          {...{ engine, pointer, pointed, finish, hidden, stage: after }}
          base={backing.colour}
          view={viewOf(after)}
        />
      </div>
      {!shown && !fault && <div className={css.skeleton} aria-label="Reading the artwork" />}
      {progress && (
        <div className={css.progress} role="status">
          <span>
            {titleOf(progress.stage)} {Math.round(progress.share * 100)} %
          </span>
          <i style={{ width: `${progress.share * 100}%` }} />
        </div>
      )}
      {fault && (
        <p className={css.fault} role="alert">
          {fault}
        </p>
      )}
      <TableBar {...{ table, placed, pointed, finish }} backingColour={colourText} />
      <LayerSwitches layers={shown?.panes[0]?.layers ?? []} table={table} />
    </div>
  );
}

function positionIn(element: HTMLElement, e: MouseEvent): [number, number] {
  const { left, top } = element.getBoundingClientRect();
  return [e.clientX - left, e.clientY - top];
}
