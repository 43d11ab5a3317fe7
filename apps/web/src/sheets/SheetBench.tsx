import { type RenderView, type SheetView } from "@hardline/contract";
import { figure } from "@hardline/core/inspect/check";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { Button, Progress } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask } from "../api/client";
import { newRun, useMachines } from "../api/machines";
import { useRenderEvents } from "../bench/useRenderEvents";
import { Bay, Checks, Figures } from "../shell/bay/Bay";
import bay from "../shell/bay/Bay.module.css";
import { NumberField } from "../shared/fields/NumberField";
import { SaveWords } from "../keeper/SaveWords";
import { tellFault } from "../shared/tell";
import css from "./SheetTable.module.css";
import { SheetConflict } from "./SheetConflict";
import { SheetPieces } from "./SheetPieces";
import { SheetSettingsFields } from "./SheetSettingsFields";
import { SheetTable } from "./SheetTable";
import { useSheetWork } from "./useSheetWork";
import { Trouble } from "../shared/Trouble";

/** Pieces on stock: which and how many, how they lie, and what comes of it. */
export function SheetBench({ sheet }: { sheet: SheetView }) {
  const navigate = useNavigate();
  const askedMachines = useMachines();
  const { data: machines = [] } = askedMachines;
  const machine = machines.find((m) => m.machine.key === sheet.body.machine)?.machine;
  const work = useSheetWork(sheet, machine);
  const { body, placings, ready, arranging, measured } = work;
  const [at, setAt] = useState(0);
  const [chosen, setChosen] = useState<number | null>(null);
  const [render, setRender] = useState<RenderView | null>(null);
  useRenderEvents(
    render && render.state !== "done" && render.state !== "failed" ? render.id : null,
    setRender,
  );
  const sheets = placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
  const shown = Math.min(at, Math.max(0, sheets - 1));
  const all = body.pieces.reduce((sum, p) => sum + p.count, 0);

  const tellUnsaved = () =>
    tellFault(
      "The sheet is not saved",
      new Error("The server does not have it as it is here. Try again once it says saved."),
    );
  const makeFiles = async (): Promise<void> => {
    if (!(await work.flush())) return tellUnsaved();
    try {
      setRender(await ask<RenderView>(`/api/sheets/${sheet.id}/renders`, { method: "POST" }));
    } catch (error) {
      tellFault("The files were not asked for", error);
    }
  };
  const run = async (): Promise<void> => {
    if (!(await work.flush())) return tellUnsaved();
    try {
      const made = await newRun({ machine: body.machine!, sheetId: sheet.id, sheet: shown + 1 });
      void navigate(`/runs/${made.id}`);
    } catch (error) {
      tellFault("The run was not planned", error);
    }
  };
  const one = chosen === null ? undefined : placings[chosen];
  return (
    <Bay
      docket={
        <>
          <div className={bay.head}>
            <div className={bay.line}>
              <span className="mono">Sheet {sheet.id}</span>
              <SaveWords state={work.state} reason={work.reason} saved="saved" />
            </div>
            <h1>{work.name}</h1>
            <p>
              {all} pieces wanted, {placings.length} placed, <b>{all - placings.length} left</b>
            </p>
          </div>
          <div className={bay.block}>
            {arranging === null ? (
              <Button onClick={() => void work.arrange()} disabled={!ready} fullWidth>
                Arrange
              </Button>
            ) : (
              <>
                <Progress value={arranging * 100} size="sm" radius={0} />
                <Button variant="default" onClick={work.stop} fullWidth>
                  Stop, keep the best
                </Button>
              </>
            )}
            {!ready && body.pieces.length > 0 && <p className={bay.note}>Making the pieces …</p>}
          </div>
          <SheetPieces
            {...{ sheet, body, put: work.put }}
            placed={body.pieces.map((_, k) => placings.filter((p) => p.piece === k).length)}
            revisions={body.pieces.map((_, k) => work.pieces[k]?.revision)}
          />
          {one && chosen !== null && <ChosenCopy at={chosen} one={one} work={work} />}
          <Trouble title="The machines cannot be shown" of={[askedMachines]} />
          <SheetSettingsFields
            {...{ body, name: work.name, put: work.put }}
            machines={machines.map((m) => m.machine)}
          />
          <div className={bay.block}>
            <h2>Hand over</h2>
            <Button
              variant="default"
              onClick={() => void makeFiles()}
              disabled={placings.length === 0}
              fullWidth
            >
              Hand over files
            </Button>
            {render && (
              <p className={bay.note} role="status">
                {render.state === "done" ? (
                  <a href={render.zipUrl!} download>
                    {render.files.length} files as zip
                  </a>
                ) : render.state === "failed" ? (
                  render.error
                ) : (
                  `${render.doing} ${Math.round(render.progress * 100)} %`
                )}
              </p>
            )}
            <Button
              variant="default"
              onClick={() => void run()}
              disabled={placings.length === 0 || !body.machine}
              fullWidth
            >
              Run sheet {shown + 1}
            </Button>
            {!body.machine && <p className={bay.note}>Choose a machine to run it.</p>}
          </div>
        </>
      }
      readings={
        <>
          <h2>Use of the stock</h2>
          <Figures
            of={[
              ["Used", measured ? `${figure(100 * measured.used, 1)} %` : "–", true],
              ["Placed", `${placings.length} of ${all}`],
              ["Left", String(all - placings.length)],
              ["Sheets", String(sheets)],
            ]}
          />
          <h2>Checks</h2>
          {measured ? <Checks of={measured.checks} /> : <p className={bay.note}>When it rests</p>}
        </>
      }
    >
      {sheets > 1 && (
        <div className={css.tabs} role="tablist" aria-label="Sheets">
          {Array.from({ length: sheets }, (_, k) => (
            <button key={k} type="button" role="tab" aria-selected={k === shown} onClick={() => setAt(k)}>
              Sheet {k + 1} <span className="mono">{placings.filter((p) => p.sheet === k).length}</span>
            </button>
          ))}
        </div>
      )}
      {work.theirs && <SheetConflict keeper={work.keeper} theirs={work.theirs} mine={work.mine} />}
      <SheetTable work={work} reach={machine?.margins} shown={shown} chosen={chosen} choose={setChosen} />
    </Bay>
  );
}

/** Exact place of one copy, by number. */
function ChosenCopy({ at, one, work }: { at: number; one: Placing; work: ReturnType<typeof useSheetWork> }) {
  const set = (change: Partial<Placing>) => void work.lay(at, { ...one, ...change }, true);
  return (
    <div className={bay.block}>
      <h2>Piece {at + 1}</h2>
      <div className={bay.buttons}>
        <NumberField
          label="Middle, across"
          prefix="x "
          unit="mm"
          value={Math.round(one.xMm * 100) / 100}
          min={-100}
          max={20000}
          change={(xMm) => set({ xMm })}
        />
        <NumberField
          label="Middle, down"
          prefix="y "
          unit="mm"
          value={Math.round(one.yMm * 100) / 100}
          min={-100}
          max={20000}
          change={(yMm) => set({ yMm })}
        />
        <button
          type="button"
          className={bay.plain}
          onClick={() => set({ turnDegrees: (one.turnDegrees + 90) % 360 })}
        >
          Turn, now {one.turnDegrees}°
        </button>
        {one.kept && (
          <button type="button" className={bay.plain} onClick={() => work.release(at)}>
            Let it go
          </button>
        )}
      </div>
    </div>
  );
}
