import { type RevisionView } from "@hardline/contract";
import { stageById, STAGES, type StageId } from "@hardline/core/stage/stages";
import { Button, TextInput } from "@mantine/core";
import dayjs from "dayjs";
import { useState } from "react";
import { useHistory, useHistoryChange } from "../../api/history";
import { useMay } from "../../api/people";
import field from "../../shared/fields/Field.module.css";
import { tellFault } from "../../shared/tell";
import { Trouble } from "../../shared/Trouble";
import { type PanelProps } from "../face";
import css from "./History.module.css";
import { type Looking } from "./useLooking";

/** Every revision of the route: by whom, when, what changed. Any two lie under the wipe. */
export function HistoryPanel({ scene, tools }: PanelProps<Looking>) {
  const { saved } = scene;
  const [person, setPerson] = useState<string | null>(null);
  const [stage, setStage] = useState<string | null>(null);
  const asked = useHistory(saved.id, saved.version, { person, stage });
  const revisions = asked.data?.pages.flatMap((p) => p.revisions) ?? [];
  const people = asked.data?.pages[0]?.people ?? [];
  return (
    <section aria-label="History">
      <div className={css.filters}>
        <select aria-label="By whom" value={person ?? ""} onChange={(e) => setPerson(e.target.value || null)}>
          <option value="">by anybody</option>
          {people.map(({ id, name }) => (
            <option key={id} value={id ?? ""}>
              {name}
            </option>
          ))}
        </select>
        <select
          aria-label="What changed"
          value={stage ?? ""}
          onChange={(e) => setStage(e.target.value || null)}
        >
          <option value="">any stage</option>
          {STAGES.filter((s) => !s.always).map(({ id, title }) => (
            <option key={id} value={id}>
              {title}
            </option>
          ))}
          <option value="route">the route itself</option>
        </select>
      </div>
      {tools.left !== null && <Compared tools={tools} />}
      <Trouble title="The history cannot be shown" of={[asked]} />
      {asked.isSuccess && revisions.length === 0 && <p className={field.note}>No revision is such.</p>}
      <ol className={css.list}>
        {revisions.map((r) => (
          <Revision key={r.revision} {...{ r, scene, tools }} />
        ))}
      </ol>
      {asked.hasNextPage && (
        <button
          type="button"
          className={field.link}
          disabled={asked.isFetchingNextPage}
          onClick={() => void asked.fetchNextPage()}
        >
          Older ones
        </button>
      )}
    </section>
  );
}

/** Which two lie on the light table. */
function Compared({ tools: { left, right, beside, setLeft, setRight, setBeside } }: { tools: Looking }) {
  return (
    <div className={css.compared}>
      <span className="mono">
        r{left} | {right === null ? "as it stands" : `r${right}`}
      </span>
      <button type="button" className={field.link} onClick={() => setBeside(!beside)}>
        {beside ? "Under the wipe" : "Side by side"}
      </button>
      <button
        type="button"
        className={field.link}
        onClick={() => {
          setLeft(null);
          setRight(null);
        }}
      >
        Done
      </button>
    </div>
  );
}

interface RevisionProps extends PanelProps<Looking> {
  readonly r: RevisionView;
}

function Revision({ r, scene, tools }: RevisionProps) {
  const { left, right, setLeft, setRight } = tools;
  const mayMake = useMay("make");
  const { name: rename, approve } = useHistoryChange(scene.saved.id);
  const [asked, setAsked] = useState<"name" | "yes" | null>(null);
  const [text, setText] = useState("");
  const chosen = left === r.revision;
  const ask = (what: "name" | "yes") => {
    setText(what === "name" ? (r.name ?? "") : "");
    setAsked(asked === what ? null : what);
  };
  const send = (): void => {
    const about = {
      onSuccess: () => setAsked(null),
      onError: (e: Error) => tellFault("The revision was not changed", e),
    };
    if (asked === "name") rename.mutate({ revision: r.revision, name: text }, about);
    else approve.mutate({ revision: r.revision, by: text.trim() }, about);
  };
  return (
    <li
      className={css.revision}
      data-chosen={chosen || undefined}
      data-right={right === r.revision || undefined}
    >
      <button
        type="button"
        className={css.look}
        aria-pressed={chosen}
        title={`Compare revision ${r.revision}`}
        onClick={() => setLeft(chosen ? null : r.revision)}
      >
        <span
          className={css.picture}
          style={r.thumbnailUrl ? { backgroundImage: `url("${r.thumbnailUrl}")` } : undefined}
        />
        <span className={css.words}>
          <span className={css.top}>
            <span className="mono">r{r.revision}</span>
            <span>{r.by.name}</span>
            <time dateTime={r.at}>{whenText(r.at)}</time>
          </span>
          {r.name && <b>{r.name}</b>}
          <ChangeWords r={r} />
          {(r.stands || r.handedOver) && (
            <span className={css.state}>
              {[r.stands && "stands", r.handedOver && "handed over"].filter(Boolean).join(", ")}
            </span>
          )}
          {r.approvals.map((a) => (
            <span key={a.id} className={css.yes}>
              approved: {a.who}
            </span>
          ))}
        </span>
      </button>
      {chosen && (
        <div className={css.acts}>
          {!r.stands && mayMake && (
            <button
              type="button"
              className={field.link}
              onClick={() => {
                setLeft(null);
                void scene.keeper.bringBack(r.revision);
              }}
            >
              Bring back
            </button>
          )}
          {mayMake && (
            <>
              <button type="button" className={field.link} onClick={() => ask("name")}>
                Name
              </button>
              <button type="button" className={field.link} onClick={() => ask("yes")}>
                Approved
              </button>
            </>
          )}
        </div>
      )}
      {left !== null && !chosen && !(r.stands && right === null) && (
        <div className={css.acts}>
          <button
            type="button"
            className={field.link}
            onClick={() => setRight(right === r.revision || r.stands ? null : r.revision)}
          >
            {right === r.revision ? "Not on the right" : `On the right of r${left}`}
          </button>
        </div>
      )}
      {asked && chosen && (
        <form
          className={css.ask}
          onSubmit={(e) => {
            e.preventDefault();
            send();
          }}
        >
          <TextInput
            autoFocus
            size="xs"
            aria-label={asked === "name" ? "Name of the revision" : "Who said yes, and how"}
            placeholder={asked === "name" ? "as first sent" : "Mrs Corran, by telephone"}
            maxLength={asked === "name" ? 80 : 200}
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
          />
          <Button type="submit" size="compact-sm" disabled={asked === "yes" && !text.trim()}>
            Keep
          </Button>
        </form>
      )}
    </li>
  );
}

/** Changes in words, each behind the stage that it is of. */
function ChangeWords({ r }: { r: RevisionView }) {
  if (r.broughtBack !== null) return <span>brought back r{r.broughtBack}</span>;
  if (r.parent === null) return <span>begun</span>;
  const parts = r.changes.map(({ stage, words }) => ({
    title: stage === "route" ? "" : `${stageById(stage as StageId).title}: `,
    words,
  }));
  return (
    <span className={css.changes} title={parts.map((p) => p.title + p.words).join("\n")}>
      {parts.map((p, k) => (
        <span key={k}>
          {k > 0 && p.title !== parts[k - 1].title && "; "}
          {k > 0 && p.title === parts[k - 1].title ? `, ${p.words}` : `${p.title}${p.words}`}
        </span>
      ))}
    </span>
  );
}

const whenText = (at: string): string => {
  const day = dayjs(at);
  return day.isSame(dayjs(), "day") ? day.format("HH:mm") : day.format("D MMM, HH:mm");
};
