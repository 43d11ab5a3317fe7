import { type RouteView, type TicketView } from "@hardline/contract";
import { settingsOf } from "@hardline/core";
import { useHotkeys } from "@mantine/hooks";
import { useMemo, useState } from "react";
import css from "./Bench.module.css";
import { BENCH_STAGES, shownStage, type BenchStage } from "./benchStages";
import { clearKeys } from "./clear/clearKeys";
import { ClearOverlay } from "./clear/ClearOverlay";
import { frameOf } from "./clear/opsModel";
import { useClear } from "./clear/useClear";
import { Conflict } from "./Conflict";
import { Docket } from "./Docket";
import { KeysDialog } from "./KeysDialog";
import { ReadingsColumn } from "./readings/ReadingsColumn";
import { StripPanel } from "./strip/StripPanel";
import { type StripSetting } from "./strip/variants";
import { usualBacking } from "./table/backings";
import { LightTable } from "./table/LightTable";
import { useTable } from "./table/useTable";
import { useHandOver } from "./useHandOver";
import {
  useEarlyShow,
  useEngine,
  useSteady,
  useFinish,
  useInspection,
  useKeeper,
  useSetting,
} from "./useBench";

/** One ticket's route on the bench: docket, light table, readings, and the test strip when asked for. */
export function Bench({ ticket, view }: { ticket: TicketView; view: RouteView }) {
  const { keeper, route, view: saved, state, theirs } = useKeeper(view);
  const [open, setOpen] = useState<BenchStage>("blackWhite");
  const [strip, setStrip] = useState<StripSetting | null>(null);
  const [keysShown, setKeysShown] = useState(false);
  const [placesOf, setPlacesOf] = useState<string | null>(null);
  const { engine, shown, fault, progress } = useEngine(ticket.artwork);
  useEarlyShow(engine, keeper);
  const finish = useFinish(route, ticket.artwork);
  const inspected = useInspection(engine, route, shown, state === "saved" ? saved : null);
  const set = useSetting(route, (next) => keeper.change(next));
  const material = settingsOf<{ material?: string }>(route, "blackWhite")?.material;
  const own = useMemo(
    () =>
      ticket.materialColour
        ? { name: "the material's own", colour: parseInt(ticket.materialColour.slice(1), 16) }
        : null,
    [ticket.materialColour],
  );
  const table = useTable(usualBacking(material), own);
  const clear = useClear(route, set, ticket.artwork.reading);
  const clearing = open === "clear" && settingsOf(route, "clear") !== null;
  const frame = useSteady(frameOf(route, ticket.artwork));

  const handOvers = useHandOver(keeper, saved);
  // The places of a check follow its result; when nothing is found any more there is nothing to show.
  const places = inspected?.found.checks.find((c) => c.id === placesOf && c.places.length > 0) ?? null;

  const undo = () => void keeper.undo();
  const redo = () => void keeper.redo();
  const move = (by: number) => {
    const at = BENCH_STAGES.findIndex((s) => s.id === open);
    setOpen(BENCH_STAGES[Math.min(BENCH_STAGES.length - 1, Math.max(0, at + by))].id);
  };
  const keys = useMemo(
    () =>
      [
        ["mod+Z", undo],
        ["mod+shift+Z", redo],
        ["S", () => setStrip((s) => (s ? null : "method"))],
        ["PageDown", () => move(1)],
        ["PageUp", () => move(-1)],
        ["shift+?", () => setKeysShown(true)],
        ["?", () => setKeysShown(true)],
        ["Escape", () => (setStrip(null), setPlacesOf(null))],
        ["B", table.stepBacking],
        ["W", table.toggleWipe],
        ["F", () => table.setMode("fit")],
        ["D", () => table.setMode("dot")],
        ["R", () => table.setMode("real")],
        ...(clearing ? clearKeys(clear) : []),
      ] as [string, () => void][],
    // eslint-disable-next-line react-hooks/exhaustive-deps -- rebuilt at every change of what they close over
    [open, keeper, table, clear, clearing],
  );
  useHotkeys(keys);

  const [before, after] = table.wipeStages(shownStage(open));
  // While a control is dragged the route changes with every move of the hand; this column does not.
  const stale = inspected?.of !== route;
  const limits = useSteady(route.checks);
  const readings = useMemo(
    () => (
      <ReadingsColumn
        {...{ inspected, finish, places, limits }}
        setPlaces={(check) => setPlacesOf(check?.id ?? null)}
        stale={stale}
        fly={(place) => finish && table.fly(place, finish)}
        setLimits={(checks) => keeper.change({ ...keeper.get().route, checks })}
        handOver={() => {
          setOpen("handOver");
          void handOvers.make();
        }}
      />
    ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it calls is the same at every render
    [inspected, stale, finish, limits, places, table, keeper, handOvers.busy, handOvers.asking],
  );

  return (
    <div className={css.grid}>
      <Docket
        {...{
          ticket,
          route,
          saved,
          state,
          open,
          setOpen,
          set,
          inspected,
          finish,
          undo,
          redo,
          setStrip,
          keeper,
          handOvers,
          shown,
          frame,
        }}
        clear={clear}
      />
      <div className={css.middle}>
        <LightTable
          {...{ engine, route, finish, shown, fault, progress, table, before, after, material }}
          look={clearing ? clear.look : "art"}
          gapsOf={clearing && clear.chosen?.op.op === "gaps" ? clear.chosen.index : undefined}
          over={(placed, box) =>
            clearing &&
            engine &&
            finish && <ClearOverlay {...{ engine, finish, frame, placed, box, shown }} tools={clear} />
          }
          places={places?.places ?? null}
          level={places?.level ?? "look"}
        />
        {strip && finish && engine && (
          <StripPanel
            {...{ engine, route, finish, table, material, set }}
            setting={strip}
            choose={setStrip}
            close={() => setStrip(null)}
          />
        )}
      </div>
      {readings}
      {theirs && <Conflict keeper={keeper} theirs={theirs} mine={route} />}
      <KeysDialog opened={keysShown} close={() => setKeysShown(false)} />
    </div>
  );
}
