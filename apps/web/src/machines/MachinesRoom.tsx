import { type MachineView, type RunView } from "@hardline/contract";
import { machineKindOf } from "@hardline/core/machine/machine";
import { useDocumentTitle } from "@mantine/hooks";
import { useState } from "react";
import { Link } from "react-router";
import { isEnded, WORDS } from "../run/states";
import { useMay } from "../api/people";
import { useMachineChange, useMachines, useRecentRuns } from "../api/machines";
import { tellFault } from "../shared/tell";
import { timeText } from "../shared/time";
import { TopBar } from "../shell/TopBar";
import { MachineForm } from "./MachineForm";
import css from "./Machines.module.css";
import room from "../shared/room/Room.module.css";
import { Words } from "../shared/Words";
import { Trouble } from "../shared/Trouble";

/** The shop's machines: what each is, what it is doing, and what waits for it. */
export function MachinesRoom() {
  const asked = useMachines();
  const askedRuns = useRecentRuns();
  const { data: machines = [] } = asked;
  const { data: runs = [] } = askedRuns;
  const [open, setOpen] = useState<MachineView | null>(null);
  useDocumentTitle("Machines, Hard Line");
  const ended = runs.filter(isEnded).slice(0, 12);
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>Machines</h1>
          <p>Runs wait here in their order. Those that ship with the program are simulated.</p>
        </div>
        <Trouble title="The machines cannot be shown" of={[asked]} />
        <Trouble title="The runs that have ended cannot be shown" of={[askedRuns]} />
        <div className={css.machines}>
          {machines.map((m) => (
            <MachineCard key={m.machine.key} known={m} edit={() => setOpen(m)} />
          ))}
        </div>
        {ended.length > 0 && (
          <table className={room.table}>
            <thead>
              <tr>
                <th scope="col">Runs that have ended</th>
                <th scope="col">Machine</th>
                <th scope="col" className={room.number}>
                  Estimated
                </th>
                <th scope="col" className={room.number}>
                  Took
                </th>
                <th scope="col">Came to</th>
                <th scope="col">Program</th>
              </tr>
            </thead>
            <tbody>
              {ended.map((r) => (
                <tr key={r.id}>
                  <th scope="row">
                    <Link to={`/runs/${r.id}`}>{r.name}</Link>
                  </th>
                  <td>{r.machine}</td>
                  <td className={`mono ${room.number}`}>{r.plan ? timeText(r.plan.seconds) : "–"}</td>
                  <td className={`mono ${room.number}`}>{r.seconds === null ? "–" : timeText(r.seconds)}</td>
                  <td>{outcomeOf(r)}</td>
                  <td className="mono">{r.plan?.sha256.slice(0, 10) ?? "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      {open && <MachineForm known={open} close={() => setOpen(null)} />}
    </div>
  );
}

const outcomeOf = ({ state, made }: RunView): string =>
  made ? (made.equal ? "done, dot for dot" : "done, not the bitmap") : state;

function MachineCard({ known, edit }: { known: MachineView; edit: () => void }) {
  const { machine, queue, host, port } = known;
  const { move } = useMachineChange();
  const mayChange = useMay("shop");
  const kind = machineKindOf(machine);
  const [term, value] = kind.card(machine);
  const before = (k: number) => () =>
    move.mutate(
      { id: queue[k].id, before: queue[k - 1].id },
      { onError: (e) => tellFault("The order was not changed", e) },
    );
  return (
    <section className={css.card} aria-label={machine.name}>
      <header>
        <h2>{machine.name}</h2>
        {mayChange && (
          <button type="button" onClick={edit}>
            Change
          </button>
        )}
      </header>
      <p className={css.kind}>{kind.words}</p>
      <dl className={css.facts}>
        <dt>Bed</dt>
        <dd>
          <Words of={`${machine.bed.widthMm} × ${machine.bed.heightMm} mm`} />
        </dd>
        <dt>Travel</dt>
        <dd>
          <Words of={`${machine.travelMmPerS} mm/s`} />
        </dd>
        <dt>Acceleration</dt>
        <dd>
          <Words of={`${machine.accelMmPerS2} mm/s²`} />
        </dd>
        <dt>{term}</dt>
        <dd title={value}>
          <Words of={value} />
        </dd>
        <dt>Listens</dt>
        <dd>
          {host}:{port}
        </dd>
      </dl>
      <h3>
        {queue.length === 0 ? "Nothing waits" : queue.length === 1 ? "One run" : `${queue.length} runs`}
      </h3>
      <ol className={css.queue}>
        {queue.map((run, k) => (
          <li key={run.id} data-state={run.state}>
            <Link to={`/runs/${run.id}`}>{run.name}</Link>
            <span className={css.state}>
              {run.state === "running" && run.plan
                ? `${Math.floor((100 * run.executed) / run.plan.lines)} %, ${timeText((1 - run.executed / run.plan.lines) * run.plan.seconds)} left`
                : run.state === "queued" && run.plan
                  ? `waits, ${timeText(run.plan.seconds)}`
                  : WORDS[run.state]}
            </span>
            {k > 0 && run.state === "queued" && queue[k - 1].state === "queued" && (
              <button type="button" onClick={before(k)} title="One place earlier">
                Earlier
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
