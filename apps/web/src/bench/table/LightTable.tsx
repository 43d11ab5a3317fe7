import { type Level, type Place } from "@hardline/core/inspect/check";
import { type Look } from "@hardline/core/look/onMaterial";
import { type Finish } from "@hardline/core/result/finish";
import { type Route } from "@hardline/core/route/route";
import { type StageId } from "@hardline/core/stage/stages";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Pane, type Shown } from "../../engine/protocol";
import { titleOf } from "../../stages/faces";
import { useCalibration } from "./calibration";
import { css as colourText } from "../../table/colour";
import { type PathStore } from "./drawPaths";
import { drawTable } from "./drawTable";
import { pan, place, stepZoom, visible, zoomAt, type Box, type Placed } from "../../table/geometry";
import { LayerSwitches } from "./LayerSwitches";
import css from "./LightTable.module.css";
import { Loupe } from "./Loupe";
import { PlaceTags } from "./PlaceTags";
import { type Pointed } from "./pointed";
import { ShiftedLayer } from "../../table/ShiftedLayer";
import { TableBar } from "./TableBar";
import { useSettled } from "../../table/useSettled";
import { type Table } from "./useTable";
import { WipeEdge } from "./WipeEdge";
import { answered } from "../../shared/answered";

interface Props {
  readonly engine: BenchEngine | null;
  readonly route: Route;
  readonly finish: Finish | null;
  readonly shown: Shown | null;
  readonly fault: string | null;
  readonly progress: { readonly share: number; readonly stage: StageId } | null;
  readonly table: Table;
  /** Paths that the worker told of. */
  readonly paths: PathStore;
  readonly before: StageId;
  readonly after: StageId;
  readonly places: readonly Place[] | null;
  readonly level: Level;
  /** The material that marks are to be seen on; null = bare. */
  readonly material: Surface | null;
  /** A route that lies beside this one. */
  readonly beside: Beside | null;
  /** How a stage's own drawing shows its result. */
  readonly view: (stage: StageId) => unknown;
  readonly hatched: boolean;
  /** The ticket's other routes, that can lie beside this one. */
  readonly others: readonly { readonly id: string; readonly name: string }[];
  /** What the open stage lays over the picture. */
  readonly over?: (placed: Placed, box: Box) => ReactNode;
}

/** A material as it is seen, and its name. */
export interface Surface {
  readonly name: string;
  readonly look: Look;
}

export interface Beside {
  readonly route: Route;
  readonly material: Surface | null;
  readonly backing: number;
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
  paths,
  before,
  after,
  places,
  level,
  material,
  beside,
  view: viewOf,
  hatched,
  others,
  over,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { pixelsPerMm } = useCalibration();
  const { view, setView, box: room, setBox, wipe, backing, hidden } = table;
  // Beside another route each has half of the table, and both are seen at the same place and zoom.
  const half = Math.floor(room.width / 2);
  const box = useMemo(() => (beside ? { ...room, width: half - 1 } : room), [beside, room, half]);
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const [pointer, setPointer] = useState<readonly [number, number] | null>(null);
  const pathsKey = shown?.panes[0]?.pathsKey;
  const whole = (finish && pathsKey && paths.boxWith(pathsKey, finish)) || undefined;
  const placed = finish && place(view, box, finish, pixelsPerMm, whole);

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
  const ratio = window.devicePixelRatio || 1;
  const wiped = wipe.on && !beside;
  // On the material the wipe's other side is the bare dots.
  const [left, leftWords] = material ? [after, "Bare dots"] : [before, null];
  const paneOf = (stage: StageId, more: Partial<Pane>): Pane[] =>
    seen
      ? [
          {
            stage,
            part: seen.part,
            width: Math.round(seen.on.width * ratio),
            height: Math.round(seen.on.height * ratio),
            base: backing.colour,
            view: viewOf(stage),
            hidden,
            ...more,
          },
        ]
      : [];
  const panes = [
    ...paneOf(after, { look: material?.look }),
    ...(wiped && (material || left !== after) ? paneOf(left, {}) : []),
    ...(beside
      ? paneOf(after, { beside: true, look: beside.material?.look, base: beside.backing, view: undefined })
      : []),
  ];
  const wanted = JSON.stringify(panes);
  const besideRoute = beside?.route ?? null;
  useLayoutEffect(() => {
    if (engine && panes.length > 0) engine.show({ route, panes, beside: besideRoute });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `wanted` stands for all that is seen
  }, [engine, route, wanted, besideRoute]);

  const split = beside ? { at: half } : null;
  // A new picture is drawn as it comes, a draft too; the rest of the interface follows with the exact.
  const newest = useRef<Shown | null>(null);
  const drawn = useRef<readonly unknown[]>([]);
  const [layer] = useState(() => new ShiftedLayer());
  const [exact, moved] = useSettled(placed ? `${placed.x} ${placed.y}` : "");
  const lines = { layer, exact, moved };
  useLayoutEffect(() => {
    newest.current = shown;
  }, [shown, engine]);
  useLayoutEffect(() => {
    const draw = () => {
      if (!canvas.current) return;
      const [own, on] = [newest.current, backing.colour];
      // The pointer's reading draws this anew with every move; the picture is drawn when something of it changed.
      const seen = [
        canvas.current,
        own,
        on,
        hatched,
        hidden,
        room,
        wipe,
        wiped,
        half,
        !!beside,
        placed?.x,
        placed?.y,
      ];
      const all = [...seen, placed?.zoom, window.devicePixelRatio, exact];
      if (all.every((v, k) => v === drawn.current[k])) return;
      drawn.current = all;
      const look = { ...wipe, on: wiped };
      drawTable(canvas.current, room, placed, own, look, on, hatched, paths, hidden, split, lines);
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
      const asked = engine.read(Math.floor(dx), Math.floor(dy));
      const reading = await answered(asked, "The dot under the pointer cannot be read");
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
        {wiped && leftWords ? (
          <WipeEdge {...{ table, before, after }} words={[leftWords, `On ${material!.name}`]} />
        ) : wiped ? (
          <WipeEdge {...{ table, before, after }} />
        ) : (
          <span className={css.label} style={beside ? { maxWidth: half - 28 } : undefined}>
            {[beside && route.name, titleOf(after), material && `on ${material.name}`]
              .filter(Boolean)
              .join(", ")}
          </span>
        )}
        {beside && (
          <span className={css.label} style={{ left: half + 14, maxWidth: half - 28 }}>
            {[beside.route.name, titleOf(after), beside.material && `on ${beside.material.name}`]
              .filter(Boolean)
              .join(", ")}
          </span>
        )}
        <Loupe
          {...{ engine, pointer, pointed, finish, hidden, stage: after }}
          look={material?.look}
          base={backing.colour}
          view={viewOf(after)}
        />
      </div>
      {!shown && !fault && <div className={css.skeleton} role="status" aria-label="Reading the artwork" />}
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
      <TableBar {...{ table, placed, pointed, finish, others }} backingColour={colourText} />
      <LayerSwitches layers={shown?.panes[0]?.layers ?? []} table={table} />
    </div>
  );
}

function positionIn(element: HTMLElement, e: MouseEvent): [number, number] {
  const { left, top } = element.getBoundingClientRect();
  return [e.clientX - left, e.clientY - top];
}
