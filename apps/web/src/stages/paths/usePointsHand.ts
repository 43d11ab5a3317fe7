import { nearestKnot, nearestOnPaths } from "@hardline/core/edit/find";
import { movedHandle, movedPoint } from "@hardline/core/edit/points";
import { type KnotPath } from "@hardline/core/path/pathSet";
import { useState } from "react";
import { type TableHand } from "../../table/hand";
import { ShiftedLayer } from "../../table/ShiftedLayer";
import { useSettled } from "../../table/useSettled";
import { useAtOnce } from "../../shared/useAtOnce";
import { drawChosen, drawLine, drawPoints, plus } from "./drawPoints";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { NOTHING } from "./usePathTools";
import { NEAR, added, round } from "./usePathsHand";

interface Held {
  readonly path: number;
  readonly knot: number;
  readonly side: "in" | "out" | null;
  readonly from: At;
  readonly by: At;
}

/** Points are chosen and dragged, and so are the handles of a chosen one; a double click puts one on a line. */
export function usePointsHand({ tools, to, paths, box }: HandOn): TableHand {
  const { chosen, setChosen, edit } = tools;
  const [layer] = useState(() => new ShiftedLayer());
  const origin = to.toScreen([0, 0]);
  const [rested, moved] = useSettled(origin.join(" "));
  const [held, setHeld, heldNow] = useAtOnce<Held | null>(null);
  const found = chosen.at.map((at) => nearestKnot(paths, to.mmOf(at), 0.6)).filter((k) => k !== null);
  const preview = ({ path, knot, side, by }: Held): KnotPath => {
    const own = paths[path].knots[knot];
    if (!side) return movedPoint(paths[path], knot, added(own.at, by));
    return movedHandle(paths[path], knot, side, added(own[side] ?? [0, 0], by));
  };
  const handleAt = (mm: At) => {
    for (const { path, knot } of found)
      for (const side of ["in", "out"] as const) {
        const own = paths[path].knots[knot];
        const by = own[side];
        if (by && Math.hypot(...sub(plus(own.at, by), mm)) * to.perMm <= NEAR) return { path, knot, side };
      }
    return null;
  };
  return {
    cursor: held ? "grabbing" : "default",
    help: "Click a point to choose it, Shift for more; drag it, or its handles. Double click a line for a new point.",
    told: `${found.length} points chosen, ${paths.reduce((n, p) => n + p.knots.length, 0)} in all`,
    down: (e, x, y) => {
      const mm = to.toMm(x, y);
      const handle = handleAt(mm);
      if (handle) return setHeld({ ...handle, from: mm, by: [0, 0] });
      const hit = nearestKnot(paths, mm, NEAR / to.perMm);
      if (!hit) return setChosen(NOTHING);
      const at = to.named(paths[hit.path].knots[hit.knot].at);
      const has = found.some((f) => f.path === hit.path && f.knot === hit.knot);
      if (e.shiftKey && has)
        return setChosen({
          kind: "points",
          at: chosen.at.filter((_, k) => found[k]?.path !== hit.path || found[k]?.knot !== hit.knot),
        });
      if (!has) setChosen({ kind: "points", at: e.shiftKey ? [...chosen.at, at] : [at] });
      setHeld({ ...hit, side: null, from: mm, by: [0, 0] });
    },
    moved: (_e, x, y) => {
      const now = heldNow();
      if (now) setHeld({ ...now, by: sub(to.toMm(x, y), now.from) });
    },
    up: () => {
      const now = heldNow();
      setHeld(null);
      if (!now || Math.hypot(...now.by) * to.perMm < 1) return;
      const own = paths[now.path].knots[now.knot];
      const at = to.named(own.at);
      if (now.side)
        return edit([
          { edit: "moveHandle", at, side: now.side, byMm: round(added(own[now.side] ?? [0, 0], now.by)) },
        ]);
      const moves = chosen.at.map((place) => ({
        edit: "movePoint" as const,
        at: place,
        to: to.named(added(to.mmOf(place), now.by)),
      }));
      edit(moves, { kind: "points", at: moves.map((m) => m.to) });
    },
    twice: (x, y) => {
      const hit = nearestOnPaths(paths, to.toMm(x, y), NEAR / to.perMm);
      if (!hit) return;
      const at = to.named(hit.at);
      edit([{ edit: "addPoint", at }], { kind: "points", at: [at] });
    },
    draw: (pen) => {
      const points = (on: CanvasRenderingContext2D) => drawPoints(on, paths, to, box);
      if (layer.lay(pen, box, [paths, to.perMm], origin, rested, points)) moved();
      if (held) drawLine(pen, preview(held), to);
      for (const { path, knot } of found)
        drawChosen(pen, held?.path === path ? preview(held) : paths[path], knot, to);
    },
  };
}

const sub = (p: At, q: At): At => [p[0] - q[0], p[1] - q[1]];
