import { useKeys } from "../../shared/keys";
import { useState } from "react";
import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { drawLine } from "./drawPoints";
import { curveThrough, type Clicked } from "./curveThrough";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { overOf } from "./usePathTools";
import { NEAR } from "./usePathsHand";

/** A path by clicking its points: a curve follows through them, straight with Shift; a click on the first closes it. */
export function useDrawHand({ tools, to }: HandOn): TableHand {
  const [points, setPoints, pointsNow] = useAtOnce<readonly Clicked[]>([]);
  const [pointer, setPointer] = useState<At | null>(null);
  const done = (closed: boolean) => {
    const given = pointsNow();
    setPoints([]);
    if (given.length < 2) return;
    const knots = curveThrough(given, closed).map((k) => ({ ...k, at: to.named(k.at) }));
    tools.edit([{ edit: "draw", knots, closed, ...(closed ? overOf(tools.over) : {}) }]);
  };
  useKeys([
    ["Enter", () => done(false)],
    ["Backspace", () => setPoints(pointsNow().slice(0, -1))],
  ]);
  const first = points[0] && to.toScreen(points[0].at);
  const closes = (x: number, y: number): boolean =>
    points.length > 2 && !!first && Math.hypot(x - first[0], y - first[1]) <= NEAR;
  return {
    cursor: "crosshair",
    help: "Click points; Shift makes the stretch straight. Click the first to close, Enter ends it open, Backspace takes one back.",
    told: `${points.length} points`,
    down: (e, x, y) => {
      if (closes(x, y)) return done(true);
      setPoints([...pointsNow(), { at: to.toMm(x, y), straight: e.shiftKey }]);
    },
    moved: (_e, x, y) => setPointer([x, y]),
    left: () => setPointer(null),
    draw: (pen) => {
      if (points.length === 0) return;
      const closing = pointer && closes(...pointer);
      const given = pointer && !closing ? [...points, { at: to.toMm(...pointer), straight: false }] : points;
      if (given.length > 1)
        drawLine(pen, { knots: curveThrough(given, !!closing), closed: !!closing }, to, "#1d6b45");
      pen.fillStyle = "#ffffff";
      pen.strokeStyle = "#1f45c4";
      pen.lineWidth = 1.3;
      for (const { at } of points) {
        const [x, y] = to.toScreen(at);
        pen.beginPath();
        pen.rect(x - 3, y - 3, 6, 6);
        pen.fill();
        pen.stroke();
      }
    },
  };
}
