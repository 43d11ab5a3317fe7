import { type Level, type Place } from "@hardline/core/inspect/check";
import { type Colourway } from "@hardline/core/recolour/colourway";
import { type Finish } from "@hardline/core/result/finish";
import { type Route } from "@hardline/core/route/route";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { useLayoutEffect, useMemo, useRef, type ReactNode } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { titleOf } from "../../stages/faces";
import { css as colourText } from "../../table/colour";
import { place, visible, type Box, type Placed } from "../../table/geometry";
import { type EngineState } from "../useBench";
import { useCalibration } from "./calibration";
import { type PathStore } from "./drawPaths";
import { LayerSwitches } from "./LayerSwitches";
import css from "./LightTable.module.css";
import { Loupe } from "./Loupe";
import { panesFor } from "./panes";
import { PlaceTags } from "./PlaceTags";
import { type BesideRoute, type Surface } from "./surface";
import { StandIn } from "./StandIn";
import { TableBar } from "./TableBar";
import { TableLabels } from "./TableLabels";
import { TableState } from "./TableState";
import { useDrawn } from "./useDrawn";
import { positionIn, useMoving } from "./useMoving";
import { usePointed } from "./usePointed";
import { type Table } from "./useTable";

interface Props {
  readonly engine: BenchEngine | null;
  readonly route: Route;
  readonly finish: Finish | null;
  readonly state: EngineState;
  /** The last picture of the piece, as the board has it: shown until there is a new one. */
  readonly standIn: string | null;
  readonly table: Table;
  /** Paths that the worker told of. */
  readonly paths: PathStore;
  /** The stages left and right of the wipe. */
  readonly sides: readonly [before: StageId, after: StageId];
  /** What a check points at. */
  readonly places: { readonly places: readonly Place[]; readonly level: Level } | null;
  /** The material that marks are to be seen on; null = bare. */
  readonly material: Surface | null;
  readonly beside: BesideRoute | null;
  /** The ticket's other routes, that can lie beside this one. */
  readonly others: readonly { readonly id: string; readonly name: string }[];
  /** The colourway that is chosen; null = as it is. */
  readonly way: Colourway | null;
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
  state,
  standIn,
  table,
  paths,
  sides: [before, after],
  places,
  material,
  beside,
  others,
  way,
  view,
  hatched,
  over,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { pixelsPerMm } = useCalibration();
  const { box: room, setBox, backing, hidden } = table;
  const { shown } = state;
  // Beside another route each has half of the table, and both are seen at the same place and zoom.
  const half = Math.floor(room.width / 2);
  const halved = beside !== null && !beside.under;
  const box = useMemo(() => (halved ? { ...room, width: half - 1 } : room), [halved, room, half]);
  const pathsKey = shown?.panes[0]?.pathsKey;
  const whole = (finish && pathsKey && paths.boxWith(pathsKey, finish)) || undefined;
  const placed = finish && place(table.view, box, finish, pixelsPerMm, whole);

  useLayoutEffect(() => {
    const element = frame.current!;
    const measure = () => setBox({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [setBox]);

  const ofOne = table.wipe.on && !beside && !stageById(after).canvas && !stageById(before).canvas;
  const wiped = ofOne || beside?.under !== undefined;
  const seen = placed && visible(placed, box);
  const about = { ratio: window.devicePixelRatio || 1, backing: backing.colour };
  const panes = seen
    ? panesFor({ seen, before, after, wiped, material, beside, hidden, way, view, ...about })
    : [];
  const wanted = JSON.stringify(panes);
  const besideRoute = beside?.route ?? null;
  useLayoutEffect(() => {
    if (engine && panes.length > 0) engine.show({ route, panes, beside: besideRoute });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `wanted` stands for all that is seen
  }, [engine, route, wanted, besideRoute]);

  const splitAt = halved ? half : null;
  useDrawn(canvas, { engine, shown, table, paths, placed, room, wiped, splitAt, hatched });
  const { pointed, pointer, pointAt, pointAway } = usePointed(engine, placed);
  const { dragTo, ...moving } = useMoving(frame, table, placed, box);
  return (
    <div className={css.table}>
      <div
        ref={frame}
        className={css.frame}
        tabIndex={0}
        role="application"
        aria-label={`Light table, ${titleOf(after)}. Arrow keys move, plus and minus zoom.`}
        {...moving}
        onPointerMove={(e) => {
          dragTo(e);
          void pointAt(...positionIn(e.currentTarget, e));
        }}
        onPointerLeave={pointAway}
      >
        <canvas
          ref={canvas}
          className={css.canvas}
          role="img"
          aria-label={`The picture as ${titleOf(after)} has it`}
        />
        {placed && finish && standIn && !state.begun && <StandIn {...{ placed, finish, src: standIn }} />}
        {placed && over?.(placed, box)}
        {placed && finish && places && <PlaceTags {...{ placed, finish, ...places }} />}
        <TableLabels
          name={route.name}
          way={way && stageById(after).inColourways ? way.name : null}
          {...{ table, before, after, material, beside, wiped, half }}
        />
        <Loupe
          {...{ engine, pointer, pointed, finish, hidden, stage: after }}
          appearance={material?.appearance}
          base={backing.colour}
          view={view(after)}
        />
      </div>
      <TableState {...state} standIn={standIn} />
      <TableBar {...{ table, placed, pointed, finish, others }} backingColour={colourText} />
      <LayerSwitches layers={shown?.panes[0]?.layers ?? []} table={table} />
    </div>
  );
}
