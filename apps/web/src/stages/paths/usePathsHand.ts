import { nearestOnPaths, pathRound, shapeOf } from "@hardline/core/edit/find";
import { type KnotPath } from "@hardline/core/path/pathSet";
import { useMemo } from "react";
import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { drawLine } from "./drawPoints";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { NOTHING } from "./usePathTools";

/** How near the pointer must come, on the screen. */
export const NEAR = 9;
/** Moves shorter than this on the screen are a click. */
const CLICK = 3;

/** Paths are chosen by a click or a box, and dragged. */
export function usePathsHand({ tools, to, paths }: HandOn): TableHand {
  const { chosen, setChosen, edit } = tools;
  const [drag, setDrag, dragNow] = useAtOnce<{ from: At; by: At; box: boolean; more: boolean } | null>(null);
  const found = chosen.at
    .map((at) => nearestOnPaths(paths, to.mmOf(at), 0.6)?.path)
    .filter((p) => p !== undefined);
  // What is done to an outline is done to the holes in it.
  const named = found.join(" ");
  const shapes = useMemo(() => {
    const alike = (f: number) => shapeOf(paths, f, (k) => paths[k].set === paths[f].set);
    return [...new Set(named.split(" ").filter(Boolean).map(Number).flatMap(alike))];
  }, [paths, named]);
  const moved = (path: KnotPath, by: At): KnotPath => ({
    ...path,
    knots: path.knots.map((k) => ({ ...k, at: [k.at[0] + by[0], k.at[1] + by[1]] as const })),
  });
  return {
    cursor: "default",
    help: "Click a line, or into what it bounds, to choose it; Shift for more; drag a box around several. Drag a line to move its shape, Delete takes it away.",
    told: `${found.length} of ${paths.length} paths`,
    down: (e, x, y) => {
      const mm = to.toMm(x, y);
      const more = e.shiftKey;
      const hit = nearestOnPaths(paths, mm, NEAR / to.perMm);
      if (!hit) return setDrag({ from: mm, by: [0, 0], box: true, more });
      const at = to.named(paths[hit.path].knots[0].at);
      const has = found.includes(hit.path);
      if (more)
        setChosen({
          kind: "paths",
          at: has ? chosen.at.filter((_, k) => found[k] !== hit.path) : [...chosen.at, at],
        });
      else if (!has) setChosen({ kind: "paths", at: [at] });
      setDrag({ from: mm, by: [0, 0], box: false, more });
    },
    moved: (_e, x, y) => {
      const now = dragNow();
      if (!now) return;
      const mm = to.toMm(x, y);
      setDrag({ ...now, by: [mm[0] - now.from[0], mm[1] - now.from[1]] });
    },
    up: () => {
      const now = dragNow();
      setDrag(null);
      if (!now) return;
      const far = Math.hypot(...now.by) * to.perMm > CLICK;
      if (now.box) {
        if (!far) {
          // Between the lines: what bounds this place, be it an outline or a hole.
          const round = pathRound(paths, now.from);
          if (round === null) return setChosen(NOTHING);
          const at = to.named(paths[round].knots[0].at);
          return setChosen({ kind: "paths", at: now.more ? [...chosen.at, at] : [at] });
        }
        const [x0, x1] = [now.from[0], now.from[0] + now.by[0]].sort((a, b) => a - b);
        const [y0, y1] = [now.from[1], now.from[1] + now.by[1]].sort((a, b) => a - b);
        const within = paths.filter(({ knots }) =>
          knots.every(({ at: [x, y] }) => x >= x0 && x <= x1 && y >= y0 && y <= y1),
        );
        return setChosen({ kind: "paths", at: within.map((p) => to.named(p.knots[0].at)) });
      }
      if (!far) return;
      edit(
        chosen.at.map((at) => ({ edit: "move" as const, at, byMm: round(now.by) })),
        { kind: "paths", at: chosen.at.map((at) => to.named(added(to.mmOf(at), now.by))) },
      );
    },
    draw: (pen) => {
      for (const k of shapes)
        drawLine(
          pen,
          drag && !drag.box ? moved(paths[k], drag.by) : paths[k],
          to,
          drag ? "#1d6b45" : undefined,
        );
      if (!drag?.box) return;
      const [[x, y], [u, v]] = [to.toScreen(drag.from), to.toScreen(added(drag.from, drag.by))];
      pen.strokeStyle = "#1d6b45";
      pen.setLineDash([2, 3]);
      pen.strokeRect(Math.min(x, u) + 0.5, Math.min(y, v) + 0.5, Math.abs(u - x), Math.abs(v - y));
      pen.setLineDash([]);
    },
  };
}

export const added = (p: At, d: At): At => [p[0] + d[0], p[1] + d[1]];
/** A tenth of a micrometre, as files have it. */
export const round = ([x, y]: At): At => [Math.round(x * 1e4) / 1e4, Math.round(y * 1e4) / 1e4];
