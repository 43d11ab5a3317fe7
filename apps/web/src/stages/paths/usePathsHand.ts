import { nearestOnPaths, pathRound, shapeOf } from "@hardline/core/edit/find";
import { type PathEdit } from "@hardline/core/edit/operations";
import { type Affine } from "@hardline/core/path/affine";
import { type Rect } from "@hardline/core/raster/types";
import { useMemo } from "react";
import { useAtOnce } from "../../shared/useAtOnce";
import { useWords } from "../../shared/unit";
import { type Pointing, type TableHand } from "../../table/hand";
import { drawSnaps, label } from "./drawGuides";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { pathOf } from "./pathOf";
import {
  affineOf,
  boxOfAll,
  HANDLES,
  middleOf,
  NO_CHANGE,
  placeAfter,
  placeOn,
  scaledBy,
  turnedBy,
  type Change,
  type Handle,
} from "./selection";
import { snapped, snappedAngle, type SnapLine } from "./snapping";
import { NOTHING } from "./usePathTools";

/** How near the pointer must come, on the screen. */
export const NEAR = 9;
/** Moves shorter than this on the screen are a click. */
const CLICK = 3;
/** Within so much on the screen something snaps. */
const SNAP = 7;
/** The handle that turns lies so far above the box, on the screen. */
const TURN_UP = 24;
const [STAMP, GUIDE, WHITE] = ["#1f45c4", "#1d6b45", "#ffffff"];

type Drag =
  | { readonly kind: "box"; readonly from: At; readonly by: At; readonly more: boolean }
  | {
      readonly kind: "move" | "turn";
      readonly from: At;
      readonly by: At;
      readonly keys: Keys;
      /** It began between the lines: a click chooses what is there. */
      readonly inside?: true;
    }
  | {
      readonly kind: "scale";
      readonly from: At;
      readonly by: At;
      readonly handle: Handle;
      readonly keys: Keys;
    };

interface Keys {
  /** Alt: a copy is made. */
  readonly copies: boolean;
  /** Shift: one way, one angle or one proportion is kept. */
  readonly keeps: boolean;
}

const keysOf = (e: Pointing): Keys => ({ copies: e.altKey, keeps: e.shiftKey });

/** Paths are chosen by a click or a box; dragged, scaled by the handles of their box and turned by the one above it. */
export function usePathsHand({ tools, to, paths, piece }: HandOn): TableHand {
  const { chosen, setChosen, edit, guides } = tools;
  const words = useWords();
  const [drag, setDrag, dragNow] = useAtOnce<Drag | null>(null);
  const found = chosen.at
    .map((at) => nearestOnPaths(paths, to.mmOf(at), 0.6)?.path)
    .filter((p) => p !== undefined);
  // What is done to an outline is done to the holes in it.
  const named = found.join(" ");
  const { shapes, box, line, others } = useMemo(() => {
    const alike = (f: number) => shapeOf(paths, f, (k) => paths[k].set === paths[f].set);
    const all = [...new Set(named.split(" ").filter(Boolean).map(Number).flatMap(alike))];
    const own = all.map((k) => paths[k]);
    const stay = new Set(all);
    return {
      shapes: all,
      box: boxOfAll(own),
      line: pathOf(own),
      others: all.length === 0 ? [] : boxesOf(paths.filter((_, k) => !stay.has(k))),
    };
  }, [paths, named]);

  const seen = (of: Drag | null): { change: Change; lines: readonly SnapLine[] } => {
    if (!of || of.kind === "box" || !box) return { change: NO_CHANGE, lines: [] };
    if (of.kind === "turn") {
      const about = middleOf(box);
      const degrees = turnedBy(about, of.from, added(of.from, of.by));
      return {
        change: { ...NO_CHANGE, about, turnDegrees: snappedAngle(degrees, of.keys.keeps) },
        lines: [],
      };
    }
    if (of.kind === "scale") return { change: scaledBy(box, of.handle, of.by, of.keys.keeps), lines: [] };
    const by = of.keys.keeps ? oneWay(of.by) : of.by;
    const there = { ...box, x: box.x + by[0], y: box.y + by[1] };
    const snap = snapped(there, others, piece, guides, SNAP / to.perMm);
    return { change: { ...NO_CHANGE, byMm: round(added(by, snap.by)) }, lines: snap.lines };
  };
  const handleAt = (x: number, y: number): Handle | "turn" | null => {
    if (!box) return null;
    const [tx, ty] = turnHandle(to.toScreen(placeOn(box, { across: 0, down: -1 })));
    if (Math.hypot(x - tx, y - ty) <= NEAR) return "turn";
    // Of something too small for handles, its line is taken.
    if (Math.max(box.width, box.height) * to.perMm < 4 * NEAR) return null;
    return HANDLES.find((h) => Math.hypot(...less([x, y], to.toScreen(placeOn(box, h)))) <= NEAR - 2) ?? null;
  };
  return {
    cursor: drag && drag.kind !== "box" ? "grabbing" : "default",
    help: "Click a line, or into what it bounds; Shift for more; drag a box around several. Drag to move, Alt copies, Shift keeps the way; handles scale and turn.",
    told: `${found.length} of ${paths.length} paths`,
    down: (e, x, y) => {
      const mm = to.toMm(x, y);
      const keys = keysOf(e);
      const handle = handleAt(x, y);
      if (handle === "turn") return setDrag({ kind: "turn", from: mm, by: [0, 0], keys });
      if (handle) return setDrag({ kind: "scale", from: mm, by: [0, 0], handle, keys });
      const hit = nearestOnPaths(paths, mm, NEAR / to.perMm);
      if (!hit) {
        // Within what is chosen it is dragged as well as by its line.
        if (box && !e.shiftKey && holds(box, mm))
          return setDrag({ kind: "move", from: mm, by: [0, 0], keys, inside: true });
        return setDrag({ kind: "box", from: mm, by: [0, 0], more: e.shiftKey });
      }
      const at = to.named(paths[hit.path].knots[0].at);
      const has = found.includes(hit.path) || shapes.includes(hit.path);
      if (e.shiftKey && !e.altKey)
        setChosen({
          kind: "paths",
          at: has ? chosen.at.filter((_, k) => found[k] !== hit.path) : [...chosen.at, at],
        });
      else if (!has) setChosen({ kind: "paths", at: [at] });
      setDrag({ kind: "move", from: mm, by: [0, 0], keys: { ...keys, keeps: false } });
    },
    moved: (e, x, y) => {
      const now = dragNow();
      if (!now) return;
      const by = less(to.toMm(x, y), now.from);
      setDrag(now.kind === "box" ? { ...now, by } : { ...now, by, keys: keysOf(e) });
    },
    up: () => {
      const now = dragNow();
      setDrag(null);
      if (!now) return;
      const far = Math.hypot(...now.by) * to.perMm > CLICK;
      if (now.kind === "box") return setChosen(chosenBy(now, far));
      if (!far) return now.kind === "move" && now.inside && setChosen(chosenBy({ ...now, more: false }, far));
      const { change } = seen(now);
      const places = chosen.at;
      const after = places.map((at) => to.named(placeAfter(change, to.mmOf(at))));
      if (now.kind === "move" && !now.keys.copies)
        return edit(
          places.map((at): PathEdit => ({ edit: "move", at, byMm: change.byMm })),
          { kind: "paths", at: after },
        );
      edit([transformOf(change, places, to.named(change.about), now.keys.copies ? 1 : 0)], {
        kind: "paths",
        at: after,
      });
    },
    draw: (pen) => {
      const { change, lines } = seen(drag);
      const moved = drag !== null && drag.kind !== "box";
      if (line) {
        const m = affineOf(change);
        const copied = moved && drag.keys.copies;
        strokeShapes(pen, line, onScreen(to, m), moved ? GUIDE : STAMP);
        if (copied) strokeShapes(pen, line, onScreen(to, [1, 0, 0, 1, 0, 0]), STAMP);
      }
      if (box && !drag) drawHandles(pen, box, to);
      if (moved && box) {
        drawSnaps(pen, lines, to, (mm) => words(`${lengthText(mm)} mm`));
        const place = to.toScreen(placeAfter(change, placeOn(box, { across: 0, down: 1 })));
        label(pen, [place[0], place[1] + 16], words(told(drag.kind, change)));
      }
      if (drag?.kind !== "box") return;
      const [[x, y], [u, v]] = [to.toScreen(drag.from), to.toScreen(added(drag.from, drag.by))];
      pen.strokeStyle = GUIDE;
      pen.lineWidth = 1;
      pen.setLineDash([2, 3]);
      pen.strokeRect(Math.min(x, u) + 0.5, Math.min(y, v) + 0.5, Math.abs(u - x), Math.abs(v - y));
      pen.setLineDash([]);
    },
  };

  /** What a click beside every line, or a box, chooses. */
  function chosenBy({ from, by, more }: { from: At; by: At; more: boolean }, far: boolean) {
    if (!far) {
      // Between the lines: what bounds this place, be it an outline or a hole.
      const around = pathRound(paths, from);
      if (around === null) return NOTHING;
      const at = to.named(paths[around].knots[0].at);
      return { kind: "paths" as const, at: more ? [...chosen.at, at] : [at] };
    }
    const [x0, x1] = [from[0], from[0] + by[0]].sort((a, b) => a - b);
    const [y0, y1] = [from[1], from[1] + by[1]].sort((a, b) => a - b);
    const within = paths.filter(({ knots }) =>
      knots.every(({ at: [x, y] }) => x >= x0 && x <= x1 && y >= y0 && y <= y1),
    );
    // A hole goes with its shape.
    const numbers = within.map((path) => paths.indexOf(path));
    const holes = new Set(
      numbers.flatMap((f) => shapeOf(paths, f, (k) => paths[k].set === paths[f].set).slice(1)),
    );
    const at = within.filter((_, k) => !holes.has(numbers[k])).map((path) => to.named(path.knots[0].at));
    return { kind: "paths" as const, at: more ? [...chosen.at, ...at] : at };
  }
}

/** An edit that changes shapes, or makes copies of them. */
export const transformOf = (change: Change, at: readonly At[], about: At, copies: number): PathEdit => ({
  ...{ edit: "transform", at, about, across: change.across, down: change.down },
  ...{ turnDegrees: change.turnDegrees, byMm: change.byMm, copies, rows: 0, rowByMm: [0, 0] },
});

/** Boxes of paths; more than this many would take longer to look through than a picture lasts. */
const MOST_BOXES = 2000;
const boxesOf = (paths: Parameters<typeof boxOfAll>[0]): Rect[] =>
  paths.slice(0, MOST_BOXES).map((path) => boxOfAll([path])!);

const holds = (box: Rect, [x, y]: At): boolean =>
  x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height;

/** The larger of both ways alone. */
const oneWay = ([x, y]: At): At => (Math.abs(x) > Math.abs(y) ? [x, 0] : [0, y]);

const turnHandle = ([x, y]: At): At => [x, y - TURN_UP];

const lengthText = (mm: number): string => String(Math.round(mm * 100) / 100);

function told(kind: Drag["kind"], { across, down, turnDegrees, byMm }: Change): string {
  if (kind === "turn") return `${lengthText(turnDegrees)}°`;
  const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
  if (kind === "scale") return across === down ? percent(across) : `${percent(across)} × ${percent(down)}`;
  return `${lengthText(byMm[0])} × ${lengthText(byMm[1])} mm`;
}

const onScreen = ({ toScreen, perMm }: HandOn["to"], [a, b, c, d, e, f]: Affine): DOMMatrix => {
  const [x, y] = toScreen([e, f]);
  return new DOMMatrix([a * perMm, b * perMm, c * perMm, d * perMm, x, y]);
};

function strokeShapes(pen: CanvasRenderingContext2D, line: Path2D, m: DOMMatrix, colour: string): void {
  const path = new Path2D();
  path.addPath(line, m);
  pen.lineJoin = "round";
  for (const [style, width] of [
    [WHITE, 4],
    [colour, 2],
  ] as const) {
    pen.strokeStyle = style;
    pen.lineWidth = width;
    pen.stroke(path);
  }
}

function drawHandles(pen: CanvasRenderingContext2D, box: Rect, { toScreen, perMm }: HandOn["to"]): void {
  const [[x, y], [u, v]] = [toScreen([box.x, box.y]), toScreen([box.x + box.width, box.y + box.height])];
  pen.strokeStyle = GUIDE;
  pen.lineWidth = 1.2;
  pen.setLineDash([1.5, 3]);
  pen.strokeRect(x, y, u - x, v - y);
  const [tx, ty] = turnHandle([(x + u) / 2, y]);
  pen.beginPath();
  pen.moveTo(tx, y);
  pen.lineTo(tx, ty);
  pen.stroke();
  pen.setLineDash([]);
  pen.fillStyle = WHITE;
  pen.beginPath();
  pen.arc(tx, ty, 4.5, 0, 2 * Math.PI);
  pen.fill();
  pen.stroke();
  if (Math.max(box.width, box.height) * perMm < 4 * NEAR) return;
  for (const handle of HANDLES) {
    const [hx, hy] = toScreen(placeOn(box, handle));
    pen.beginPath();
    pen.rect(hx - 3.5, hy - 3.5, 7, 7);
    pen.fill();
    pen.stroke();
  }
}

const less = (p: At, q: At): At => [p[0] - q[0], p[1] - q[1]];
export const added = (p: At, d: At): At => [p[0] + d[0], p[1] + d[1]];
/** A tenth of a micrometre, as files have it. */
export const round = ([x, y]: At): At => [Math.round(x * 1e4) / 1e4, Math.round(y * 1e4) / 1e4];
