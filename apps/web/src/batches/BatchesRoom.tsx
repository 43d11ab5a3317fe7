import { type BatchView } from "@hardline/contract";
import { Button } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { useState } from "react";
import { useBatchAct, useBatches, useBatchItems, type BatchAct } from "../api/batches";
import room from "../shared/room/Room.module.css";
import { timeText } from "../shared/time";
import { TopBar } from "../shell/TopBar";
import css from "./Batches.module.css";
import { NewBatchForm } from "./NewBatchForm";
import { Trouble } from "../shared/Trouble";

const STATES = ["done", "running", "failed", "stopped", "waiting"] as const;

/** House routes run over many pictures or names, on as many workers as there are. */
export function BatchesRoom() {
  const asked = useBatches();
  const { data: batches = [] } = asked;
  const [making, setMaking] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const shown = open ?? batches[0]?.id ?? null;
  useDocumentTitle("Batches, Hard Line");
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>Batches</h1>
          <p>One house route over a folder of pictures, or a file for every line of a table.</p>
          <Button onClick={() => setMaking(true)}>New batch</Button>
        </div>
        <Trouble title="The batches cannot be shown" of={[asked]} />
        <div className={css.split}>
          <ul className={css.list}>
            {batches.map((batch) => (
              <li key={batch.id} aria-current={batch.id === shown}>
                <Batch batch={batch} open={() => setOpen(batch.id)} />
              </li>
            ))}
          </ul>
          {shown && <Items id={shown} />}
        </div>
      </main>
      {making && <NewBatchForm close={() => setMaking(false)} made={setOpen} />}
    </div>
  );
}

function Batch({ batch, open }: { batch: BatchView; open: () => void }) {
  const { id, name, route, counts, seconds } = batch;
  const all = STATES.reduce((sum, s) => sum + counts[s], 0);
  const { mutate } = useBatchAct(id);
  const act = (what: BatchAct) => () => mutate(what);
  const atWork = counts.waiting + counts.running > 0;
  return (
    <>
      <button type="button" className={css.name} onClick={open}>
        {name}
      </button>
      <p className={css.route}>{route}</p>
      <div className={css.bar} role="img" aria-label={`${counts.done} of ${all} done`}>
        {STATES.map((s) =>
          counts[s] > 0 ? <i key={s} data-state={s} style={{ flexGrow: counts[s] }} /> : null,
        )}
      </div>
      <p className={css.counts}>
        <span className="mono">{counts.done}</span> of <span className="mono">{all}</span> done
        {counts.running > 0 && `, ${counts.running} at work`}
        {counts.failed > 0 && <b className={css.failed}>, {counts.failed} failed</b>}
        {counts.stopped > 0 && `, ${counts.stopped} stopped`}
        {seconds !== null && `, ${timeText(seconds)}`}
      </p>
      <div className={css.acts}>
        {atWork && (
          <button type="button" onClick={act("stop")}>
            Stop
          </button>
        )}
        {counts.stopped > 0 && (
          <button type="button" onClick={act("resume")}>
            Go on
          </button>
        )}
        {counts.failed > 0 && !atWork && (
          <button type="button" onClick={act("resume?failed=1")}>
            Try the failed again
          </button>
        )}
        {counts.done > 0 && (
          <a href={`/api/batches/${id}/zip`} download>
            All as zip
          </a>
        )}
      </div>
    </>
  );
}

function Items({ id }: { id: string }) {
  const asked = useBatchItems(id);
  const { data: items = [] } = asked;
  return (
    <div className={css.items}>
      <Trouble title="What became of this batch cannot be shown" of={[asked]} />
      <table className={room.table}>
        <thead>
          <tr>
            <th scope="col">Picture or name</th>
            <th scope="col">State</th>
            <th scope="col" className={room.number}>
              Files
            </th>
          </tr>
        </thead>
        <tbody>
          {items.slice(0, 500).map((item) => (
            <tr key={item.id}>
              <th scope="row">{item.zipUrl ? <a href={item.zipUrl}>{item.name}</a> : item.name}</th>
              <td
                className={item.state === "failed" ? css.failed : undefined}
                title={item.error ?? undefined}
              >
                {item.state === "running" ? `${Math.round(item.progress * 100)} %` : item.state}
                {item.error && <small>{item.error}</small>}
              </td>
              <td className={`mono ${room.number}`}>{item.files || "–"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
