import { type Stroke } from "@hardline/core/clear/strokes";
import { type ClearOp } from "@hardline/core/stage/clear/settings";
import { useKeys } from "../../shared/keys";
import { useRef, useState } from "react";
import { type Pointing, type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { placing } from "./placing";
import { useAtOnce } from "../../shared/useAtOnce";

const KEEP = "rgba(31, 69, 196, 0.55)";
const AWAY = "rgba(21, 24, 29, 0.55)";
/** Points closer than this on the screen add nothing to a stroke. */
const STEP = 2;
/** A stroke of more points than this keeps every second of them: a route file takes 5000. */
const MOST_POINTS = 4000;

type Point = [number, number] | [number, number, number];

/** Strokes are drawn freely, or as straight lines with Shift: from the last stroke's end, or while dragging. */
export function useStrokeHand({ tools, finish, frame, placed }: HandProps): TableHand {
  const { chosen, change, brush, setBrush } = tools;
  const [drawing, setDrawing, drawnSoFar] = useAtOnce<Point[] | null>(null);
  const [pointer, setPointer] = useState<readonly [number, number] | null>(null);
  const last = useRef<readonly [number, number] | null>(null);
  const to = placing(placed, finish, frame);
  const perMm = placed.width / finish.widthMm;
  const op = chosen?.op;
  const side =
    op?.op === "cutOut" ? brush.side : op?.op === "brush" && op.paints === "away" ? "away" : "keep";
  const bigger = (by: number) =>
    setBrush({ ...brush, sizeMm: Math.min(20, Math.max(0.2, Math.round(brush.sizeMm * by * 10) / 10)) });
  useKeys([
    ["[", () => bigger(1 / 1.25)],
    ["]", () => bigger(1.25)],
    ["X", () => setBrush({ ...brush, side: brush.side === "keep" ? "away" : "keep" })],
  ]);

  const pointOf = (e: Pointing, x: number, y: number): Point => {
    const at = to.toArtwork(x, y);
    return e.pointerType === "pen" ? [...at, Math.round(e.pressure * 100) / 100] : at;
  };
  return {
    cursor: "none",
    help: `${words(op, side)} Shift: straight lines. [ and ]: size ${brush.sizeMm} mm.${op?.op === "cutOut" ? " X: other side." : ""}`,
    down: (e, x, y) => {
      const first = pointOf(e, x, y);
      setDrawing(e.shiftKey && last.current ? [[...last.current] as Point, first] : [first]);
    },
    moved: (e, x, y) => {
      setPointer([x, y]);
      const points = drawnSoFar();
      if (!points) return;
      const next = pointOf(e, x, y);
      if (e.shiftKey) return setDrawing([points[0], next]);
      const [u, v] = points[points.length - 1];
      const [px, py] = to.toScreen(u, v);
      if (Math.hypot(x - px, y - py) >= STEP) setDrawing([...thinned(points), next]);
    },
    up: () => {
      const points = drawnSoFar();
      if (!points || !chosen) return;
      const stroke: Stroke = { points, sizeMm: brush.sizeMm, softness: brush.softness };
      last.current = [points[points.length - 1][0], points[points.length - 1][1]];
      setDrawing(null);
      change(chosen.index, withStroke(chosen.op, stroke, brush.side));
    },
    left: () => setPointer(null),
    wheel: (up) => bigger(up ? 1.25 : 1 / 1.25),
    draw: (pen) => {
      pen.lineCap = pen.lineJoin = "round";
      const line = (points: Stroke["points"], sizeMm: number, colour: string) => {
        pen.strokeStyle = pen.fillStyle = colour;
        pen.lineWidth = Math.max(1, sizeMm * perMm);
        pen.beginPath();
        points.forEach((p, i) => pen[i === 0 ? "moveTo" : "lineTo"](...to.toScreen(p[0], p[1])));
        if (points.length === 1) pen.lineTo(...to.toScreen(points[0][0] + 1e-6, points[0][1]));
        pen.stroke();
      };
      // What a hold or a cut-out was told stays to be seen; a brush's work is seen in the picture itself.
      if (op?.op === "cutOut") {
        for (const s of op.keep) line(s.points, s.sizeMm, KEEP);
        for (const s of op.away) line(s.points, s.sizeMm, AWAY);
      } else if (op?.op === "hold") for (const s of op.strokes) line(s.points, s.sizeMm, KEEP);
      if (drawing) line(drawing, brush.sizeMm, side === "keep" ? KEEP : AWAY);
      if (!pointer) return;
      const radius = Math.max(1.5, (brush.sizeMm * perMm) / 2);
      for (const [colour, width] of [
        ["#ffffff", 3],
        [side === "keep" ? "#1f45c4" : "#15181d", 1.25],
      ] as const) {
        pen.strokeStyle = colour;
        pen.lineWidth = width;
        pen.beginPath();
        pen.arc(pointer[0], pointer[1], radius, 0, 2 * Math.PI);
        pen.stroke();
      }
    },
  };
}

const thinned = (points: Point[]): Point[] =>
  points.length < MOST_POINTS ? points : points.filter((_, i) => i % 2 === 0);

function words(op: ClearOp | undefined, side: "keep" | "away"): string {
  if (op?.op === "cutOut")
    return side === "keep" ? "Scribble on the subject." : "Scribble on the background.";
  if (op?.op === "hold") return "Paint what must stay.";
  return side === "keep" ? "Paint back what was taken." : "Paint away.";
}

function withStroke(op: ClearOp, stroke: Stroke, side: "keep" | "away"): ClearOp {
  const own = { ...stroke, points: [...stroke.points] as [number, number][] };
  if (op.op === "cutOut") return { ...op, [side]: [...op[side], own] };
  if (op.op === "hold" || op.op === "brush") return { ...op, strokes: [...op.strokes, own] };
  return op;
}
