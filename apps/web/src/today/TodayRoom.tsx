import { type DoneView } from "@hardline/contract";
import { Button, Select } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import dayjs from "dayjs";
import { useState } from "react";
import { Link } from "react-router";
import { useJournal, usePeople } from "../api/people";
import room from "../shared/room/Room.module.css";
import { Trouble } from "../shared/Trouble";
import { TopBar } from "../shell/TopBar";
import css from "./Today.module.css";

const ALL = "all";

/** What happened in the shop on a day: who did what, and when. */
export function TodayRoom() {
  const [back, setBack] = useState(0);
  const [person, setPerson] = useState(ALL);
  const day = dayjs().startOf("day").subtract(back, "day");
  const asked = useJournal(
    day.toISOString(),
    day.add(1, "day").toISOString(),
    person === ALL ? null : person,
  );
  const { data: people = [] } = usePeople();
  useDocumentTitle("Today, Hard Line");
  const title = back === 0 ? "Today" : back === 1 ? "Yesterday" : day.format("dddd D MMMM");
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>{title}</h1>
          <p>{back < 2 && day.format("dddd D MMMM")}</p>
          <Select
            aria-label="Who"
            size="sm"
            w={180}
            data={[
              { value: ALL, label: "everybody" },
              ...people.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            value={person}
            onChange={(v) => setPerson(v ?? ALL)}
          />
          <Button.Group>
            <Button variant="default" onClick={() => setBack(back + 1)}>
              Day before
            </Button>
            <Button variant="default" disabled={back === 0} onClick={() => setBack(back - 1)}>
              Day after
            </Button>
          </Button.Group>
        </div>
        <Trouble title="What was done cannot be shown" of={[asked]} />
        {asked.data && asked.data.length === 0 && <p className={css.none}>Nothing was done.</p>}
        <ol className={css.list} aria-label="What was done">
          {asked.data?.map((done, k) => (
            <li key={`${done.at} ${k}`}>
              <time className="mono" dateTime={done.at}>
                {dayjs(done.at).format("HH:mm")}
              </time>
              <b>{done.by.name}</b>
              <span>
                {done.words} <Subject done={done} />
              </span>
            </li>
          ))}
        </ol>
      </main>
    </div>
  );
}

/** What something was done to, and the way to it. */
function Subject({ done: { subject, ticket, route, revision, runId } }: { done: DoneView }) {
  const name = subject && subject !== ticket?.piece && subject !== route?.name ? subject : null;
  const way = runId ? `/runs/${runId}` : null;
  return (
    <>
      {way ? <Link to={way}>{name ?? "a run"}</Link> : !ticket && name}
      {ticket && !way && (
        <>
          <Link
            to={route ? `/tickets/${ticket.id}/routes/${route.id}?stage=history` : `/tickets/${ticket.id}`}
          >
            {ticket.number} {ticket.piece}
          </Link>
          {route && `, ${route.name}`}
          {revision !== null && <span className="mono"> r{revision}</span>}
        </>
      )}
    </>
  );
}
