import { type RouteView, type TicketView } from "@hardline/contract";
import {
  readRoute,
  settingsOf,
  stageById,
  withoutStage,
  withStage,
  type Check,
  type Finish,
  type Frame,
  type Level,
  type Route,
  type StageId,
} from "@hardline/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { sizeText, useUnit } from "../shared/unit";
import { BENCH_STAGES, type BenchStage } from "./benchStages";
import { ClearPanel } from "./clear/ClearPanel";
import { type ClearTools } from "./clear/useClear";
import css from "./Docket.module.css";
import { RouteTabs } from "./RouteTabs";
import { type Kept, type RouteKeeper } from "./RouteKeeper";
import { StageRow } from "./StageRow";
import { ArtworkPanel } from "./stages/ArtworkPanel";
import { plainStages } from "@hardline/contract/constants";
import { BlackWhitePanel } from "./stages/BlackWhitePanel";
import { HandOverPanel } from "./stages/HandOverPanel";
import { SizePanel } from "./stages/SizePanel";
import { TonePanel } from "./stages/TonePanel";
import { type StripSetting } from "./strip/variants";
import { TicketDialog } from "./TicketDialog";
import { type HandOvers } from "./useHandOver";
import { type Inspected, type Shown, type StageCheck } from "../engine/protocol";
import dayjs from "dayjs";

export type SetStage = (stage: StageId, settings: Record<string, unknown>) => void;

interface Props {
  readonly ticket: TicketView;
  readonly route: Route;
  readonly saved: RouteView;
  readonly state: Kept["state"];
  readonly keeper: RouteKeeper;
  readonly open: BenchStage;
  readonly setOpen: (stage: BenchStage) => void;
  readonly set: SetStage;
  readonly inspected: { readonly of: Route; readonly found: Inspected } | null;
  readonly finish: Finish | null;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly setStrip: (setting: StripSetting) => void;
  readonly handOvers: HandOvers;
  readonly shown: Shown | null;
  readonly frame: Frame;
  readonly clear: ClearTools;
}

/** The left rail: the ticket and its route. Everything that is decided is here. */
export function Docket(props: Props) {
  const {
    ticket,
    route,
    saved,
    state,
    keeper,
    open,
    setOpen,
    set,
    inspected,
    finish,
    undo,
    redo,
    setStrip,
    handOvers,
    shown,
    frame,
    clear,
  } = props;
  const { unit } = useUnit();
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const found = inspected?.found ?? null;
  const levels = levelsOf(found?.checks ?? [], route);

  const panels: Record<BenchStage, () => React.ReactNode> = {
    artwork: () => (
      <ArtworkPanel
        artwork={ticket.artwork}
        take={(proposal) =>
          keeper.change(
            readRoute({ ...route, stages: proposal ? proposal.stages : plainStages(ticket.artwork) }),
          )
        }
      />
    ),
    size: () => <SizePanel {...{ route, set, finish }} artwork={ticket.artwork} />,
    clear: () => (
      <ClearPanel
        {...{ set, shown, finish, frame }}
        tools={clear}
        reading={ticket.artwork.reading}
        leaveOut={() => keeper.change(withoutStage(route, "clear"))}
      />
    ),
    tone: () => (
      <TonePanel {...{ route, set, found }} leaveOut={() => keeper.change(withoutStage(route, "tone"))} />
    ),
    blackWhite: () => <BlackWhitePanel {...{ route, set, found, setStrip }} />,
    handOver: () => (
      <HandOverPanel
        {...{ handOvers, saved, state }}
        dotsSha256={inspected?.of === route ? (found?.dotsSha256 ?? null) : null}
      />
    ),
  };

  return (
    <aside className={css.docket} aria-label="Docket">
      <RouteTabs
        {...{ ticket, route, saved, keeper }}
        go={(id) => void navigate(`/tickets/${ticket.id}/routes/${id}`)}
      />
      <div className={css.paper}>
        <div className={css.ticket}>
          <div className={css.line}>
            <span className={`mono ${css.number}`}>{ticket.number}</span>
            <SaveState state={state} revision={saved.revision} />
            <FindingsStamp checks={inspected?.of === route ? found!.checks : null} />
          </div>
          <button
            type="button"
            className={css.piece}
            onClick={() => setEditing(true)}
            title="Edit the ticket"
          >
            <b>{ticket.piece}</b>
            <span>
              {[
                ticket.customer || "no customer yet",
                ticket.due && `due ${dayjs(ticket.due).format("ddd D MMM")}`,
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
          </button>
          <div className={css.facts}>
            <span>
              Finish size
              <b className="mono">
                {finish ? sizeText(finish.widthMm, finish.heightMm, unit) : "not possible"}
              </b>
            </span>
            <span>
              Pieces
              <b className="mono">{ticket.pieces}</b>
            </span>
            <span className={css.steps}>
              <button
                type="button"
                onClick={undo}
                disabled={!saved.canUndo && state === "saved"}
                title="Undo (Ctrl+Z)"
              >
                Undo
              </button>
              <button type="button" onClick={redo} disabled={!saved.canRedo} title="Redo (Ctrl+Shift+Z)">
                Redo
              </button>
            </span>
          </div>
        </div>
        {BENCH_STAGES.map(({ id, title }, i) => (
          <StageRow
            key={id}
            number={i + 1}
            title={title}
            summary={summaryOf(id, route, ticket)}
            level={id === "handOver" ? "none" : (levels[id] ?? "none")}
            picture={
              found?.stages.find((s) => s.stage === (id === "handOver" ? "blackWhite" : id))?.bitmap ?? null
            }
            open={open === id}
            choose={() => setOpen(id)}
          >
            {open === id &&
              (isMissing(id, route) ? (
                <MissingStage {...{ title, add: () => keeper.change(withStage(route, id as StageId)) }} />
              ) : (
                panels[id]()
              ))}
          </StageRow>
        ))}
      </div>
      <TicketDialog ticket={ticket} opened={editing} close={() => setEditing(false)} />
    </aside>
  );
}

const isMissing = (id: BenchStage, route: Route): boolean =>
  id !== "artwork" && id !== "handOver" && settingsOf(route, id) === null;

function MissingStage({ title, add }: { title: string; add: () => void }) {
  return (
    <p className={css.missing}>
      {title} is not on this route.{" "}
      <button type="button" onClick={add}>
        Put it on
      </button>
    </p>
  );
}

const RANK: Record<Level, number> = { fine: 0, look: 1, stop: 2 };

/** The worst level of each stage's checks; a stage that has none of its own is fine once it has run. */
function levelsOf(checks: readonly StageCheck[], route: Route): Partial<Record<StageId, Level>> {
  if (checks.length === 0) return {};
  const levels: Partial<Record<StageId, Level>> = { artwork: "fine" };
  for (const { stage } of route.stages) levels[stage] = "fine";
  for (const { stage, level } of checks)
    if (RANK[level] > RANK[levels[stage] ?? "fine"]) levels[stage] = level;
  return levels;
}

function summaryOf(id: BenchStage, route: Route, { artwork }: TicketView): string {
  if (id === "artwork") return `${artwork.name}, ${artwork.width} × ${artwork.height}`;
  if (id === "handOver") return handedOver(route);
  const settings = settingsOf(route, id);
  return settings ? stageById(id).summary(settings) : "not on this route";
}

function handedOver(route: Route): string {
  const gives = [settingsOf(route, "clear") && "cleared art", settingsOf(route, "blackWhite") && "bitmap"];
  return [...gives.filter(Boolean), "readings, job sheet"].join(", ");
}

function SaveState({ state, revision }: { state: Kept["state"]; revision: number }) {
  const words = {
    saved: `saved, r${revision}`,
    saving: "saving …",
    offline: "not saved, server away",
    conflict: "changed elsewhere",
  }[state];
  return (
    <span className={`${css.save} ${css[state]}`} role="status">
      {words}
    </span>
  );
}

function FindingsStamp({ checks }: { checks: readonly Check[] | null }) {
  if (!checks) return <span className={css.pending}>checking …</span>;
  const stops = checks.filter((c) => c.level === "stop").length;
  const looks = checks.filter((c) => c.level === "look").length;
  return (
    <span className={css.stamp}>{stops ? `${stops} to stop` : looks ? `${looks} to look at` : "fine"}</span>
  );
}
