import { type RouteView, type TicketView } from "@hardline/contract";
import { WHOLE_FRAME } from "@hardline/core/path/frame";
import { settingsOf } from "@hardline/core/route/route";
import { useMemo, useState } from "react";
import { useMaterials } from "../api/house";
import { type BenchScene } from "../stages/face";
import { stageById } from "@hardline/core/stage/stages";
import { rowOf } from "../stages/faces";
import css from "./Bench.module.css";
import { Conflict } from "./Conflict";
import { Docket } from "./Docket";
import { KeysDialog } from "./KeysDialog";
import { BenchReadings } from "./readings/BenchReadings";
import { StripPanel } from "./strip/StripPanel";
import { axesOn, useSpread, useSpreadKey } from "./strip/useSpread";
import { backingName } from "./table/backings";
import { PathStore } from "./table/drawPaths";
import { LightTable } from "./table/LightTable";
import { surfaceOf } from "./table/surface";
import { useTable } from "./table/useTable";
import {
  useCanvas,
  useEarlyShow,
  useEngine,
  useInspection,
  useKeeper,
  usePlace,
  useSetting,
} from "./useBench";
import { useBenchKeys } from "./useBenchKeys";
import { besideOf, useBeside } from "./useBeside";
import { useHandOver } from "./useHandOver";
import { lastOf, useOpenRow } from "./useOpenRow";
import { useTools } from "./useTools";
import { useWatch } from "./useWatch";

/** One ticket's route on the bench: docket, light table, readings, and the test strip when asked for. */
export function Bench({ ticket, view }: { ticket: TicketView; view: RouteView }) {
  const { artwork } = ticket;
  const { keeper, value: route, view: saved, state, theirs } = useKeeper(view);
  const [open, setOpen] = useOpenRow(route);
  const spread = useSpread(() => keeper.get().value);
  const [keysShown, setKeysShown] = useState(false);
  const [placesOf, setPlacesOf] = useState<string | null>(null);
  const { engine, ...computed } = useEngine(artwork);
  const { shown } = computed;
  useEarlyShow(engine, keeper, artwork);
  const place = usePlace(route, artwork);
  const finish = place?.finish ?? null;
  const inspected = useInspection(engine, route, shown, state === "saved" ? saved : null);
  const set = useSetting(keeper, artwork);
  const table = useTable(backingName(route), useOwnColour(ticket));
  const handOvers = useHandOver(keeper, saved);
  const { data: materials } = useMaterials();
  const others = useMemo(() => ticket.routes.filter((r) => r.id !== saved.id), [ticket.routes, saved.id]);
  const besides = useBeside(table, materials);
  const watch = useWatch(ticket.id, saved.id, keeper);
  const [paths] = useState(() => new PathStore());
  const [wayName, setWay] = useState<string | null>(null);
  const way = route.colourways.find((w) => w.name === wayName) ?? null;
  const seenStage = open.stage ?? lastOf(route);
  const canvas = useCanvas(route, artwork, seenStage, finish);
  const scene: BenchScene = {
    sets: paths.setsOf(shown?.panes[0]?.pathsKey),
    texts: paths.textsOf(shown?.panes[0]?.pathsKey),
    ...{ ticket, route, saved, state, keeper, engine, finish, shown, inspected, handOvers, set },
    ...{ way, setWay, watch },
    frame: place?.frame ?? WHOLE_FRAME,
    spread: spread.spread,
    layers: { hidden: table.hidden, toggle: table.toggleLayer, hide: table.hideLayers },
  };
  const tools = useTools(scene);
  const tool = tools[open.id];
  const laid = open.face.onTable?.(tool) ?? null;
  const lookedAt = laid?.route ?? route;
  const beside = useMemo(
    () => (laid ? besideOf(laid, table.backing.colour) : besides),
    [laid, besides, table.backing],
  );
  const onRoute = open.stage !== null && settingsOf(route, open.stage) !== null;
  const { Hands } = open.face;
  // The places of a check follow its result; when nothing is found any more there is nothing to show.
  const places = inspected?.found.checks.find((c) => c.id === placesOf && c.places.length > 0) ?? null;
  useBenchKeys({
    ...{ keeper, spread, table, open, setOpen, onRoute, tool, others },
    showKeys: () => setKeysShown(true),
    dropPlaces: () => setPlacesOf(null),
  });
  useSpreadKey(spread, open.stage);

  const axes = axesOn(spread.axes, route);
  const sides = table.wipeStages(seenStage, route);
  return (
    <div className={css.grid}>
      {/* The picture comes first: both sides take as long to draw as a first look. */}
      {computed.waited ? (
        <Docket
          {...{ scene, tools, open, setOpen }}
          undo={() => void keeper.undo()}
          redo={() => void keeper.redo()}
        />
      ) : (
        <div className={css.docketSkeleton} />
      )}
      <main className={css.middle}>
        <h1 className={css.heading}>
          Ticket {ticket.number}, {ticket.piece}: {route.name}
        </h1>
        <LightTable
          {...{ engine, table, paths, sides, places, others, way }}
          route={lookedAt}
          beside={stageById(sides[1]).canvas && !laid ? null : beside}
          finish={canvas}
          state={computed}
          standIn={saved.id === ticket.routes[0]?.id ? ticket.thumbnail : null}
          material={table.onMaterial && !laid ? surfaceOf(route, materials) : null}
          view={(stage) => (stage === open.stage && onRoute ? open.face.view?.(tool) : undefined)}
          hatched={sides[1] === open.stage && onRoute && (open.face.hatched?.(tool) ?? false)}
          over={(placed, box) =>
            Hands &&
            computed.waited &&
            (onRoute || open.stage === null) &&
            engine &&
            canvas && <Hands {...{ scene, engine, placed, box }} finish={canvas} tools={tool} />
          }
        />
        {axes.length > 0 && finish && engine && (
          <StripPanel
            {...{ engine, route, saved, finish, table, axes, spread }}
            change={(next) => keeper.change(next)}
          />
        )}
      </main>
      {computed.waited ? (
        <BenchReadings
          {...{ scene, table, places }}
          showPlacesOf={setPlacesOf}
          handOver={() => {
            setOpen(rowOf("handOver"));
            void handOvers.make();
          }}
        />
      ) : (
        <div className={css.readingsSkeleton} />
      )}
      {theirs && <Conflict keeper={keeper} theirs={theirs} mine={route} />}
      <KeysDialog opened={keysShown} close={() => setKeysShown(false)} />
    </div>
  );
}

/** The colour of the material that a ticket is for, to see the art on. */
const useOwnColour = ({ materialColour }: TicketView) =>
  useMemo(
    () =>
      materialColour ? { name: "the material's own", colour: parseInt(materialColour.slice(1), 16) } : null,
    [materialColour],
  );
