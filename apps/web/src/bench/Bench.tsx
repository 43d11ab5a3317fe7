import { type RouteView, type TicketView } from "@hardline/contract";
import { WHOLE_FRAME } from "@hardline/core/path/frame";
import { settingsOf, withSettings } from "@hardline/core/route/route";
import { useKeys } from "../shared/keys";
import { useMemo, useState } from "react";
import { useMaterials } from "../api/house";
import { useRouteView } from "../api/tickets";
import { type BenchScene } from "../stages/face";
import { rowOf, ROWS } from "../stages/faces";
import { useSteady } from "../shared/useSteady";
import css from "./Bench.module.css";
import { Conflict } from "./Conflict";
import { Docket } from "./Docket";
import { KeysDialog } from "./KeysDialog";
import { ReadingsColumn } from "./readings/ReadingsColumn";
import { StripPanel } from "./strip/StripPanel";
import { axesOn, useSpread, useSpreadKey } from "./strip/useSpread";
import { BACKINGS, backingName } from "./table/backings";
import { surfaceOf } from "./table/surface";
import { PathStore } from "./table/drawPaths";
import { LightTable } from "./table/LightTable";
import { useTable } from "./table/useTable";
import { useHandOver } from "./useHandOver";
import { useEarlyShow, useEngine, useInspection, useKeeper, usePlace, useSetting } from "./useBench";
import { lastOf, useOpenRow } from "./useOpenRow";
import { useTools } from "./useTools";

/** One ticket's route on the bench: docket, light table, readings, and the test strip when asked for. */
export function Bench({ ticket, view }: { ticket: TicketView; view: RouteView }) {
  const { keeper, value: route, view: saved, state, theirs } = useKeeper(view);
  const [open, setOpen] = useOpenRow(route);
  const spread = useSpread(() => keeper.get().value);
  const [keysShown, setKeysShown] = useState(false);
  const [placesOf, setPlacesOf] = useState<string | null>(null);
  const { artwork } = ticket;
  const { engine, shown, fault, progress } = useEngine(artwork);
  useEarlyShow(engine, keeper, artwork);
  const place = usePlace(route, artwork);
  const finish = place?.finish ?? null;
  const inspected = useInspection(engine, route, shown, state === "saved" ? saved : null);
  const set = useSetting(keeper, artwork);
  const own = useMemo(
    () =>
      ticket.materialColour
        ? { name: "the material's own", colour: parseInt(ticket.materialColour.slice(1), 16) }
        : null,
    [ticket.materialColour],
  );
  const table = useTable(backingName(route), own);
  const handOvers = useHandOver(keeper, saved);
  const { data: materials } = useMaterials();
  const others = useMemo(() => ticket.routes.filter((r) => r.id !== saved.id), [ticket.routes, saved.id]);
  const { data: besideView } = useRouteView(table.besideId ?? undefined);
  const beside = useMemo(
    () =>
      table.besideId && besideView
        ? {
            route: besideView.route,
            material: table.onMaterial ? surfaceOf(besideView.route, materials) : null,
            backing: BACKINGS.find((b) => b.name === backingName(besideView.route))!.colour,
          }
        : null,
    [table.besideId, table.onMaterial, besideView, materials],
  );
  const [paths] = useState(() => new PathStore());
  const scene: BenchScene = {
    sets: paths.setsOf(shown?.panes[0]?.pathsKey),
    ...{ ticket, route, saved, state, keeper, engine, finish, shown, inspected, handOvers, set },
    frame: place?.frame ?? WHOLE_FRAME,
    spread: spread.spread,
    layers: { hidden: table.hidden, toggle: table.toggleLayer, hide: table.hideLayers },
  };
  const tools = useTools(scene);
  const tool = tools[open.id];
  const onRoute = open.stage !== null && settingsOf(route, open.stage) !== null;
  const { Hands } = open.face;

  // The places of a check follow its result; when nothing is found any more there is nothing to show.
  const places = inspected?.found.checks.find((c) => c.id === placesOf && c.places.length > 0) ?? null;

  const undo = () => void keeper.undo();
  const redo = () => void keeper.redo();
  const move = (by: number) => setOpen(ROWS[Math.min(ROWS.length - 1, Math.max(0, ROWS.indexOf(open) + by))]);
  const keys = useMemo(
    () =>
      [
        ["mod+Z", undo],
        ["mod+shift+Z", redo],
        ["S", spread.toggle],
        ["M", table.toggleMaterial],
        ["N", () => table.setBeside(nextOf([null, ...others.map((o) => o.id)], table.besideId))],
        ["alt+ArrowDown", () => move(1)],
        ["alt+ArrowUp", () => move(-1)],
        ["shift+?", () => setKeysShown(true)],
        ["?", () => setKeysShown(true)],
        ["Escape", () => (spread.close(), setPlacesOf(null))],
        ["B", table.stepBacking],
        ["W", table.toggleWipe],
        ["F", () => table.setMode("fit")],
        ["D", () => table.setMode("dot")],
        ["R", () => table.setMode("real")],
        ...(onRoute ? (open.face.keys?.(tool) ?? []) : [])
          // While a strip is open, numbers keep one of its variants.
          .filter(({ press }) => spread.axes.length === 0 || !/\d$/.test(press))
          .map(({ press, act }) => [press, act] as const),
      ] as [string, () => void][],
    // eslint-disable-next-line react-hooks/exhaustive-deps -- rebuilt at every change of what they close over
    [open, keeper, table, tool, onRoute, spread.axes.length],
  );
  useKeys(keys);
  useSpreadKey(spread, open.stage);

  const axes = axesOn(spread.axes, route);
  const [before, after] = table.wipeStages(open.stage ?? lastOf(route), route);
  // While a control is dragged the route changes with every move of the hand; this column does not.
  const stale = inspected?.of !== route;
  const limits = useSteady(route.checks);
  const stages = useSteady(route.stages.map((s) => s.stage));
  const readings = useMemo(
    () => (
      <ReadingsColumn
        {...{ inspected, finish, places, limits, stages }}
        pieces={ticket.pieces}
        setPlaces={(check) => setPlacesOf(check?.id ?? null)}
        stale={stale}
        fly={(at) => finish && table.fly(at, finish)}
        repair={(stage, change) => keeper.change(withSettings(keeper.get().value, stage, change))}
        setLimits={(checks) => keeper.change({ ...keeper.get().value, checks })}
        handOver={() => {
          setOpen(rowOf("handOver"));
          void handOvers.make();
        }}
      />
    ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it calls is the same at every render
    [
      inspected,
      stale,
      finish,
      limits,
      stages,
      places,
      table,
      keeper,
      ticket.pieces,
      handOvers.busy,
      handOvers.asking,
    ],
  );

  return (
    <div className={css.grid}>
      <Docket {...{ scene, tools, open, setOpen, undo, redo }} />
      <main className={css.middle}>
        <h1 className={css.heading}>
          Ticket {ticket.number}, {ticket.piece}: {route.name}
        </h1>
        <LightTable
          {...{ engine, route, finish, shown, fault, progress, table, paths, before, after, beside, others }}
          material={table.onMaterial ? surfaceOf(route, materials) : null}
          view={(stage) => (stage === open.stage && onRoute ? open.face.view?.(tool) : undefined)}
          hatched={after === open.stage && onRoute && (open.face.hatched?.(tool) ?? false)}
          over={(placed, box) =>
            Hands &&
            onRoute &&
            engine &&
            finish && <Hands {...{ scene, engine, finish, placed, box }} tools={tool} />
          }
          places={places?.places ?? null}
          level={places?.level ?? "look"}
        />
        {axes.length > 0 && finish && engine && (
          <StripPanel
            {...{ engine, route, saved, finish, table, axes, spread }}
            change={(next) => keeper.change(next)}
          />
        )}
      </main>
      {readings}
      {theirs && <Conflict keeper={keeper} theirs={theirs} mine={route} />}
      <KeysDialog opened={keysShown} close={() => setKeysShown(false)} />
    </div>
  );
}

/** The one after another in a list, the first after the last. */
const nextOf = <T,>(list: readonly T[], now: T): T => list[(list.indexOf(now) + 1) % list.length];

/** The last stage of a route, where its decisions come together; it is what an opened ticket shows first. */
