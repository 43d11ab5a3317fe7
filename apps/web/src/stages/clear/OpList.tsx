import { type ClearOp } from "@hardline/core/stage/clear/settings";
import { opWords } from "@hardline/core/stage/clear/words";
import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { type ReactNode } from "react";
import { Under } from "../../shared/fields/Field";
import css from "./Clear.module.css";
import { type ClearTools } from "./useClear";

interface Props {
  readonly tools: ClearTools;
  /** The settings of the operation in hand. */
  readonly settings: (op: ClearOp, index: number) => ReactNode;
}

/** What is taken away, in order; a line is dragged by its words, or moved by its arrows. */
export function OpList({ tools, settings }: Props) {
  const { ops, chosen, move } = tools;
  // A press becomes a drag only when it moves: a click opens the line.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const dropped = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) move(Number(active.id) - 1, Number(over.id) - 1);
  };
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={dropped}>
      <SortableContext items={ops.map((_, i) => i + 1)} strategy={verticalListSortingStrategy}>
        <ol className={css.ops} aria-label="What is taken away">
          {ops.map((op, i) => (
            <Line key={i} {...{ op, tools }} index={i}>
              {chosen?.index === i && <Under value={`ops.${i}`}>{settings(op, i)}</Under>}
            </Line>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

interface LineProps {
  readonly op: ClearOp;
  readonly index: number;
  readonly tools: ClearTools;
  readonly children: ReactNode;
}

function Line({ op, index, tools, children }: LineProps) {
  const { ops, chosen, setHand, move, remove } = tools;
  const open = chosen?.index === index;
  const words = opWords(op);
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: index + 1,
  });
  return (
    <li
      ref={setNodeRef}
      className={open ? css.chosen : undefined}
      data-dragged={isDragging || undefined}
      style={transform ? { transform: `translateY(${transform.y}px)`, transition } : undefined}
    >
      <div className={css.line}>
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...listeners}
          className={css.words}
          aria-expanded={open}
          onClick={() => setHand(open ? null : { kind: "op", index })}
        >
          {words}
        </button>
        <button
          type="button"
          aria-label={`Earlier: ${words}`}
          title="Do this earlier"
          disabled={index === 0}
          onClick={() => move(index, index - 1)}
        >
          ↑
        </button>
        <button
          type="button"
          aria-label={`Later: ${words}`}
          title="Do this later"
          disabled={index === ops.length - 1}
          onClick={() => move(index, index + 1)}
        >
          ↓
        </button>
        <button
          type="button"
          aria-label={`Remove: ${words}`}
          title="Remove (Del)"
          onClick={() => remove(index)}
        >
          ×
        </button>
      </div>
      {children}
    </li>
  );
}
