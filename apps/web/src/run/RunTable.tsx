import { type RunView } from "@hardline/contract";
import { type Machine } from "@hardline/core/machine/machine";
import { reachable } from "@hardline/core/machine/profile";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { useElementSize } from "@mantine/hooks";
import { useEffect, useRef, useState } from "react";
import { BurnedView, type BedView } from "./burnedView";
import { type Played } from "./playWorker";
import css from "./RunTable.module.css";

interface Props {
  readonly run: RunView;
  readonly machine: Machine;
  readonly played: Played | null;
  readonly second: number;
  readonly colours: { readonly bare: string; readonly marked: string };
}

const rgb = (hex: string): [number, number, number] =>
  [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16)) as [number, number, number];

/** The machine's bed from above: the piece, the rectangle the head travels, what is marked so far, and the head. */
export function RunTable({ run, machine, played, second, colours }: Props) {
  const { ref, width, height } = useElementSize();
  const [whole, setWhole] = useState(false);
  const [w, h] = [Math.floor(width), Math.floor(height)];
  const plan = run.plan!;
  const piece = { x: plan.at[0], y: plan.at[1], width: plan.widthMm, height: plan.heightMm };
  const view = viewOf(
    whole ? { x: 0, y: 0, ...bedSize(machine) } : around(piece, plan.travels),
    machine,
    w,
    h,
  );
  return (
    <div className={css.table} ref={ref}>
      {w > 50 && h > 50 && (
        <Bed
          key={`${whole} ${w} ${h} ${run.camera ? 1 : 0}`}
          {...{ run, machine, played, second, colours, view, w, h, piece }}
        />
      )}
      <div className={css.bar}>
        <button
          type="button"
          aria-pressed={!whole}
          onClick={() => setWhole(false)}
          title="As near as the piece allows"
        >
          Piece
        </button>
        <button
          type="button"
          aria-pressed={whole}
          onClick={() => setWhole(true)}
          title="All of the machine's bed"
        >
          Bed
        </button>
        <span>
          <i className={css.reach} /> reached
        </span>
        <span>
          <i className={css.travels} /> travelled
        </span>
      </div>
    </div>
  );
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const bedSize = ({ bed }: Machine) => ({ width: bed.widthMm, height: bed.heightMm });

function around(a: Box, b: Box): Box {
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  return {
    ...{ x, y },
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** A part of the bed, in mm from its top left, in the middle of a canvas. */
function viewOf(box: Box, machine: Machine, w: number, h: number): BedView {
  const scale = Math.min((w - 56) / box.width, (h - 76) / box.height);
  const left = (w - box.width * scale) / 2 - box.x * scale;
  const top = (h - 20 - box.height * scale) / 2 + 10 - box.y * scale;
  return { left, top: top + machine.bed.heightMm * scale, scale };
}

/** What of a bed is marked by a program, on a canvas: rows as far apart as dots are, lines as thin as they can be seen. */
function burnedViewOf(
  { timeline, film }: Played,
  plan: NonNullable<RunView["plan"]>,
  view: BedView,
  w: number,
  h: number,
  { bed }: Machine,
): BurnedView {
  const uses = new Map(plan.passes.map((p) => [p.name, p.use]));
  const pitch = plan.bitmap ? MM_PER_INCH / plan.bitmap.dotsPerInch : 0.1;
  const rows = film ? (film.swathDots * MM_PER_INCH) / film.dotsPerInch : pitch;
  const widths = timeline.moves.passes.map((name) =>
    film || uses.get(name) === "bitmap" ? rows : Math.max(0.15, 1 / view.scale),
  );
  const burned = new BurnedView(timeline, view, w, h, widths);
  return film ? burned.through(film, plan.at[0], bed.heightMm - plan.at[1]) : burned;
}

interface BedProps extends Props {
  readonly view: BedView;
  readonly w: number;
  readonly h: number;
  readonly piece: Box;
}

function Bed({ run, machine, played, second, colours, view, w, h, piece }: BedProps) {
  const marks = useRef<HTMLCanvasElement>(null);
  const head = useRef<SVGGElement>(null);
  const burned = useRef<{ of: Played; view: BurnedView; image: ImageData } | null>(null);
  const { left, top, scale } = view;
  const at = (x: number, y: number) => [left + x * scale, top - (machine.bed.heightMm - y) * scale] as const;
  const rect = ({ x, y, width, height }: Box) => ({
    ...{ x: at(x, y)[0], y: at(x, y)[1] },
    ...{ width: width * scale, height: height * scale },
  });
  useEffect(() => {
    if (!played) return;
    if (burned.current?.of !== played) {
      const made = burnedViewOf(played, run.plan!, view, w, h, machine);
      burned.current = { of: played, view: made, image: new ImageData(w, h) };
    }
    const { view: marked, image } = burned.current;
    const [x, y] = marked.upTo(second);
    marked.draw(image, rgb(colours.marked));
    marks.current!.getContext("2d")!.putImageData(image, 0, 0);
    head.current!.setAttribute("transform", `translate(${left + x * scale} ${top - y * scale})`);
  });
  return (
    <>
      <svg className={css.layer} width={w} height={h} aria-hidden>
        <rect {...rect({ x: 0, y: 0, ...bedSize(machine) })} className={css.bed} />
        <rect {...rect(reachable(machine))} className={css.reachable} />
        <rect {...rect(piece)} fill={colours.bare} stroke="#15181d" strokeWidth={0.75} />
      </svg>
      <canvas
        ref={marks}
        className={css.layer}
        width={w}
        height={h}
        aria-label="What is marked so far"
        role="img"
      />
      <svg className={css.layer} width={w} height={h} aria-hidden>
        <rect {...rect(run.plan!.travels)} className={css.travelled} />
        <g ref={head} className={css.head}>
          <line x1={-2000} x2={2000} y1={0} y2={0} />
          <circle r={6} />
          <circle r={1.5} />
        </g>
      </svg>
    </>
  );
}
