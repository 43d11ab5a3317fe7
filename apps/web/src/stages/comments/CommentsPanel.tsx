import { type CommentView } from "@hardline/contract";
import { Button, Textarea } from "@mantine/core";
import dayjs from "dayjs";
import { useState } from "react";
import { useCommentChange, useComments } from "../../api/history";
import { useMay } from "../../api/people";
import field from "../../shared/fields/Field.module.css";
import { tellFault } from "../../shared/tell";
import { Trouble } from "../../shared/Trouble";
import { type PanelProps } from "../face";
import css from "./Comments.module.css";
import { numbered } from "./numbered";
import { type Pointing } from "./usePointing";

/** Comments on the ticket, and a new one. */
export function CommentsPanel({ scene, tools }: PanelProps<Pointing>) {
  const { ticket, saved } = scene;
  const asked = useComments(ticket.id);
  const { add } = useCommentChange(ticket.id);
  const [text, setText] = useState("");
  const may = useMay("run");
  const send = (): void =>
    add.mutate(
      { text: text.trim(), routeId: saved.id, ...(tools.place ? { at: [...tools.place] } : {}) },
      {
        onSuccess: () => {
          setText("");
          tools.setPlace(null);
        },
        onError: (e) => tellFault("The comment was not kept", e),
      },
    );
  return (
    <section aria-label="Comments">
      <Trouble title="The comments cannot be shown" of={[asked]} />
      <ol className={css.list}>
        {numbered(asked.data ?? [], saved.id).map(({ comment, number }) => (
          <Comment key={comment.id} {...{ comment, number, tools }} ticketId={ticket.id} />
        ))}
      </ol>
      {may && (
        <form
          className={css.new}
          onSubmit={(e) => {
            e.preventDefault();
            send();
          }}
        >
          <Textarea
            aria-label="New comment"
            placeholder="For whoever works on this next"
            size="sm"
            autosize
            minRows={2}
            maxRows={8}
            maxLength={2000}
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
          />
          <div className={css.acts}>
            <button
              type="button"
              className={field.link}
              aria-pressed={tools.pointing}
              onClick={() => (tools.place ? tools.setPlace(null) : tools.setPointing(!tools.pointing))}
            >
              {tools.place
                ? "Without the place"
                : tools.pointing
                  ? "Click on the picture"
                  : "Point at a place"}
            </button>
            <Button type="submit" size="compact-sm" loading={add.isPending} disabled={!text.trim()}>
              Comment
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}

interface CommentProps {
  readonly comment: CommentView;
  readonly number: number | null;
  readonly tools: Pointing;
  readonly ticketId: string;
}

function Comment({ comment, number, tools, ticketId }: CommentProps) {
  const { id, text, by, at, done, own } = comment;
  const { done: see, remove } = useCommentChange(ticketId);
  const failed = { onError: (e: Error) => tellFault("The comment was not changed", e) };
  return (
    <li
      className={css.comment}
      data-done={done !== null || undefined}
      data-shown={tools.shown === id || undefined}
      onPointerEnter={() => tools.setShown(id)}
      onPointerLeave={() => tools.setShown(null)}
    >
      <div className={css.top}>
        {number !== null && <b className={css.number}>{number}</b>}
        <span>{by.name}</span>
        <time dateTime={at}>{dayjs(at).format("D MMM, HH:mm")}</time>
      </div>
      <p>{text}</p>
      <div className={css.acts}>
        {done && (
          <span className={css.seen}>
            {done.by.name}, {dayjs(done.at).format("D MMM, HH:mm")}
          </span>
        )}
        <button type="button" className={field.link} onClick={() => see.mutate({ id, is: !done }, failed)}>
          {done ? "Not yet" : "Seen to"}
        </button>
        {own && (
          <button type="button" className={field.link} onClick={() => remove.mutate(id, failed)}>
            Take away
          </button>
        )}
      </div>
    </li>
  );
}
