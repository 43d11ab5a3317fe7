import { type StageId } from "@hardline/core/stage/stages";
import { ROWS } from "../../stages/faces";
import css from "./LightTable.module.css";
import { type Table } from "./useTable";

interface Props {
  readonly table: Table;
  readonly before: StageId;
  readonly after: StageId;
  /** What lies on either side, where that is not for choosing. */
  readonly words?: readonly [string, string];
}

/** The edge between two stages: drag it, and choose which stage lies on either side. */
export function WipeEdge({ table, before, after, words }: Props) {
  const { wipe, setWipe, box } = table;
  const move = (at: number) => setWipe((w) => ({ ...w, at: Math.min(0.97, Math.max(0.03, at)) }));
  return (
    <>
      <div
        className={css.edge}
        style={{ left: wipe.at * box.width }}
        onPointerDown={(e) => {
          e.stopPropagation();
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          e.stopPropagation();
          if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
          move((e.clientX - e.currentTarget.parentElement!.getBoundingClientRect().left) / box.width);
        }}
      >
        <button
          type="button"
          className={css.grip}
          aria-label="Edge of the wipe; arrow keys move it"
          onKeyDown={(e) => {
            const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[e.key];
            if (by) {
              e.stopPropagation();
              move(wipe.at + by);
            }
          }}
        >
          ◂▸
        </button>
      </div>
      <Side
        label="Left of the edge"
        stage={before}
        words={words?.[0]}
        style={{ right: box.width * (1 - wipe.at) + 14 }}
        choose={(left) => setWipe((w) => ({ ...w, left }))}
      />
      <Side
        label="Right of the edge"
        stage={after}
        words={words?.[1]}
        style={{ left: box.width * wipe.at + 14 }}
        choose={(right) => setWipe((w) => ({ ...w, right }))}
      />
    </>
  );
}

interface SideProps {
  readonly label: string;
  readonly stage: StageId;
  readonly words?: string;
  readonly style: React.CSSProperties;
  readonly choose: (stage: StageId) => void;
}

const Side = ({ label, stage, words, style, choose }: SideProps) => (
  <span className={css.side} style={style} onPointerDown={(e) => e.stopPropagation()}>
    {words ? (
      <span className={css.words}>{words}</span>
    ) : (
      <select aria-label={label} value={stage} onChange={(e) => choose(e.currentTarget.value as StageId)}>
        {ROWS.filter((r) => r.stage !== null).map(({ id, title }) => (
          <option key={id} value={id}>
            {title}
          </option>
        ))}
      </select>
    )}
  </span>
);
