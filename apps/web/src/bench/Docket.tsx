import { findingsOf, graverFirst, type Check, type Level } from "@hardline/core/inspect/check";
import { settingsOf, withStage, type Route } from "@hardline/core/route/route";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import dayjs from "dayjs";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type StageCheck } from "../engine/protocol";
import { OrderAgainForm } from "../order/OrderAgainForm";
import { SpreadOut } from "../shared/fields/Field";
import { sizeText, useUnit } from "../shared/unit";
import { type BenchScene } from "../stages/face";
import { ROWS, type Row } from "../stages/faces";
import css from "./Docket.module.css";
import { MaterialPicker } from "./MaterialPicker";
import { SaveWords } from "../keeper/SaveWords";
import { RouteTabs } from "./RouteTabs";
import { StageRow } from "./StageRow";
import { TicketDialog } from "./TicketDialog";

interface Props {
  readonly scene: BenchScene;
  /** What each stage has in hand, by its id. */
  readonly tools: Record<string, unknown>;
  readonly open: Row;
  readonly setOpen: (row: Row) => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** The left rail: the ticket and its route. Everything that is decided is here. */
export function Docket({ scene, tools, open, setOpen, undo, redo }: Props) {
  const { ticket, route, saved, state, keeper, inspected, finish, watch } = scene;
  const { unit } = useUnit();
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const [again, setAgain] = useState(false);
  const found = inspected?.found ?? null;
  const levels = levelsOf(found?.checks ?? [], route);
  const last = found?.stages[found.stages.length - 1]?.bitmap ?? null;

  return (
    <aside className={css.docket} aria-label="Docket">
      <RouteTabs
        {...{ ticket, route, saved, keeper, watch }}
        go={(id) => void navigate(`/tickets/${ticket.id}/routes/${id}`)}
      />
      <div className={css.paper}>
        <div className={css.ticket}>
          <div className={css.line}>
            <span className={`mono ${css.number}`}>{ticket.number}</span>
            <SaveWords state={state} reason={keeper.get().reason} saved={`saved, r${saved.revision}`} />
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
          <MaterialPicker {...{ route, keeper }} />
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
        {ROWS.map((row, i) => {
          const { id, title, stage } = row;
          const { Panel } = row.face;
          return (
            <StageRow
              key={id}
              number={i + 1}
              title={title}
              summary={wordsOf(row, scene)}
              level={stage === null ? "none" : (levels[stage] ?? "none")}
              picture={stage === null ? last : (found?.stages.find((s) => s.stage === stage)?.bitmap ?? null)}
              absent={isMissing(row, route)}
              open={open === row}
              choose={() => setOpen(row)}
            >
              {open === row &&
                (isMissing(row, route) ? (
                  <MissingStage {...{ title, add: () => keeper.change(withStage(route, stage!)) }} />
                ) : (
                  <SpreadOut value={stage && ((setting) => scene.spread(stage, setting))}>
                    <Panel scene={scene} tools={tools[id]} />
                  </SpreadOut>
                ))}
            </StageRow>
          );
        })}
      </div>
      <TicketDialog
        ticket={ticket}
        opened={editing}
        close={() => setEditing(false)}
        orderAgain={() => {
          setEditing(false);
          setAgain(true);
        }}
      />
      {again && <OrderAgainForm ticketId={ticket.id} close={() => setAgain(false)} />}
    </aside>
  );
}

const isMissing = ({ stage }: Row, route: Route): boolean =>
  stage !== null && !stageById(stage).always && settingsOf(route, stage) === null;

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

/** The gravest level of each stage's checks; a stage that has none of its own is fine once it has run. */
function levelsOf(checks: readonly StageCheck[], route: Route): Partial<Record<StageId, Level>> {
  if (checks.length === 0) return {};
  const levels: Partial<Record<StageId, Level>> = {};
  for (const { stage } of ROWS) if (stage && stageById(stage).always) levels[stage] = "fine";
  for (const { stage } of route.stages) levels[stage] = "fine";
  for (const { stage, level } of checks)
    if (graverFirst(level, levels[stage] ?? "fine") < 0) levels[stage] = level;
  return levels;
}

/** What was decided at a row, in words. */
function wordsOf({ stage, face }: Row, scene: BenchScene): string {
  if (face.words) return face.words(scene);
  const settings = stage && settingsOf(scene.route, stage);
  return settings ? stageById(stage).summary(settings) : "not on this route";
}

function FindingsStamp({ checks }: { checks: readonly Check[] | null }) {
  if (!checks) return <span className={css.pending}>checking …</span>;
  const { looks, stops } = findingsOf(checks);
  return (
    <span className={css.stamp}>{stops ? `${stops} to stop` : looks ? `${looks} to look at` : "fine"}</span>
  );
}
