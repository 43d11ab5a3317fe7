import { figure } from "@hardline/core/inspect/check";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { markPlaces } from "@hardline/core/sheet/marks";
import { marksOf, stockOf, type SheetReach } from "@hardline/core/sheet/sheetFile";
import { useElementSize } from "@mantine/hooks";
import { memo, useCallback, useEffect, useRef, useState } from "react";
import css from "./SheetTable.module.css";
import { type KnownPiece } from "./usePieces";
import { type SheetWork } from "./useSheetWork";
import { Words } from "../shared/Words";

interface Props {
  readonly work: SheetWork;
  readonly reach: SheetReach | undefined;
  /** Which of the sheets is shown, from 0. */
  readonly shown: number;
  readonly chosen: number | null;
  readonly choose: (at: number | null) => void;
}

/** A copy in the hand: where it was taken hold of, and where it is to lie now. */
interface Drag {
  readonly at: number;
  readonly from: Placing;
  readonly x: number;
  readonly y: number;
  last: Placing;
  /** The others, while they are on their way. */
  giving: Promise<void> | null;
}

/** One sheet from above: its pieces as they will lie, what is not reached, and its marks. Pieces are dragged. */
export function SheetTable({ work, reach, shown, chosen, choose }: Props) {
  const { ref, width, height } = useElementSize();
  const { body, placings, pieces } = work;
  const { widthMm, heightMm } = body.stock;
  const scale = Math.max(0.01, Math.min((width - 48) / widthMm, (height - 64) / heightMm));
  const [left, top] = [(width - widthMm * scale) / 2, (height - heightMm * scale) / 2];
  const { room, blocked } = stockOf(body, reach);
  const marks = marksOf(body);
  const drag = useRef<Drag | null>(null);

  /** The copy in the hand follows it at once; the others as soon as it is known where they go. */
  const [held, setHeld] = useState<{ readonly at: number; readonly to: Placing } | null>(null);
  const now = useRef(placings);
  const newest = useRef(work.lay);
  useEffect(() => {
    now.current = placings;
    newest.current = work.lay;
  });
  const pick = useCallback(
    (k: number, e: React.PointerEvent<SVGGElement>): void => {
      e.stopPropagation();
      (e.currentTarget.ownerSVGElement as SVGSVGElement).setPointerCapture(e.pointerId);
      choose(k);
      const from = now.current[k];
      drag.current = { at: k, from, x: e.clientX, y: e.clientY, last: from, giving: null };
    },
    [choose],
  );

  const moveTo = (x: number, y: number, done: boolean): void => {
    const d = drag.current;
    if (!d) return;
    const [dx, dy] = [(x - d.x) / scale, (y - d.y) / scale];
    d.last = { ...d.from, xMm: d.from.xMm + dx, yMm: d.from.yMm + dy };
    const moved = Math.abs(dx) + Math.abs(dy) > 0.5;
    if (moved) setHeld({ at: d.at, to: d.last });
    if (done) {
      drag.current = null;
      void letGo(d, moved);
      return;
    }
    if (!moved) return;
    d.giving ??= giveWay(d).finally(() => (d.giving = null));
  };
  /** The others give way to where the copy is now, and again for as long as it has gone on meanwhile. */
  const giveWay = async (d: Drag): Promise<void> => {
    for (let laid: Placing | null = null; drag.current === d && laid !== d.last;) {
      laid = d.last;
      await newest.current(d.at, laid, false);
    }
  };
  /** What is still under way ends first, or it would be shown after where the copy was laid last. */
  const letGo = async (d: Drag, moved: boolean): Promise<void> => {
    await d.giving;
    if (moved) await newest.current(d.at, d.last, true);
    setHeld(null);
  };
  return (
    <div className={css.table} ref={ref}>
      {width > 50 && (
        <svg
          className={css.sheet}
          width={width}
          height={height}
          onPointerMove={(e) => moveTo(e.clientX, e.clientY, false)}
          onPointerUp={(e) => moveTo(e.clientX, e.clientY, true)}
          onPointerDown={() => choose(null)}
          role="img"
          aria-label={`Sheet ${shown + 1}`}
        >
          <g transform={`translate(${left} ${top}) scale(${scale})`}>
            <rect className={css.stock} width={widthMm} height={heightMm} />
            <rect className={css.room} {...room} vectorEffect="non-scaling-stroke" />
            {blocked.map((b, k) => (
              <rect key={k} className={css.kept} {...b} vectorEffect="non-scaling-stroke" />
            ))}
            {placings.map((p, k) =>
              p.sheet === shown && pieces[p.piece] ? (
                <Copy
                  key={k}
                  piece={pieces[p.piece]!}
                  at={held?.at === k ? held.to : p}
                  chosen={k === chosen}
                  number={k}
                  pick={pick}
                />
              ) : null,
            )}
            {marks &&
              markPlaces(marks, body.stock).map(([x, y], k) => (
                <Mark key={k} x={x} y={y} shape={marks.shape} size={marks.sizeMm} />
              ))}
          </g>
        </svg>
      )}
      <p className={css.help}>
        <Words of={`${figure(widthMm, 1)} × ${figure(heightMm, 1)} mm`} />. Drag a piece: the rest gives way,
        and it stays where it is put.
      </p>
    </div>
  );
}

interface CopyProps {
  readonly piece: KnownPiece;
  readonly at: Placing;
  readonly chosen: boolean;
  readonly number: number;
  readonly pick: (k: number, e: React.PointerEvent<SVGGElement>) => void;
}

/** Drawn anew only where it has moved: there may be hundreds. */
const Copy = memo(function Copy({ piece, at, chosen, number, pick }: CopyProps) {
  const { box, outline, picture, pictureUrl, printed } = piece;
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const turn = `translate(${at.xMm} ${at.yMm}) rotate(${at.turnDegrees}) scale(${at.mirrored ? -1 : 1} 1) translate(${-cx} ${-cy})`;
  return (
    <g
      transform={turn}
      className={chosen ? css.chosen : at.kept ? css.put : css.copy}
      onPointerDown={(e) => pick(number, e)}
    >
      <path className={css.body} d={pathOf(outline)} />
      <image
        href={pictureUrl}
        x={picture.xMm}
        y={picture.yMm}
        width={picture.widthMm}
        height={picture.heightMm}
        preserveAspectRatio="none"
        opacity={printed ? 1 : 0.85}
      />
      <path className={css.line} d={pathOf(outline)} vectorEffect="non-scaling-stroke" />
    </g>
  );
});

const paths = new WeakMap<readonly number[], string>();
function pathOf(outline: readonly number[]): string {
  let d = paths.get(outline);
  if (!d) {
    const parts: string[] = [];
    for (let k = 0; k < outline.length; k += 2)
      parts.push(`${outline[k].toFixed(2)} ${outline[k + 1].toFixed(2)}`);
    paths.set(outline, (d = `M${parts.join("L")}Z`));
  }
  return d;
}

function Mark({ x, y, shape, size }: { x: number; y: number; shape: string; size: number }) {
  if (shape === "disc") return <circle className={css.mark} cx={x} cy={y} r={size / 2} />;
  if (shape === "square")
    return <rect className={css.mark} x={x - size / 2} y={y - size / 2} width={size} height={size} />;
  return (
    <g className={css.mark}>
      <rect x={x - size / 10} y={y - size / 2} width={size / 5} height={size} />
      <rect x={x - size / 2} y={y - size / 10} width={size} height={size / 5} />
    </g>
  );
}
