import { rectangleKnots, roundKnots, type Knot } from "@hardline/core/path/outline";
import { type ClearOpOf } from "@hardline/core/stage/clear/settings";
import { useRef } from "react";
import { type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { placing } from "./placing";
import { useAtOnce } from "../../shared/useAtOnce";

const NEAR = 9;
const LINE = "#1f45c4";

type Path = ClearOpOf<"path">;
/** What the hand has hold of: a corner of the box, the whole of it, a point, or one of a point's two handles. */
type Grip =
  | { readonly of: "corner"; readonly x: 0 | 1; readonly y: 0 | 1 }
  | { readonly of: "all"; readonly from: readonly [number, number]; readonly box: Path["box"] }
  | { readonly of: "point" | "in" | "out" | "both"; readonly index: number };

/** An outline is dragged by its corners; a free path point by point, curved by dragging as a point is set. */
export function useShapeHand({ tools, finish, frame, placed }: HandProps): TableHand {
  const { chosen, change } = tools;
  const to = placing(placed, finish, frame);
  const grip = useRef<Grip | null>(null);
  const [held, setHeld, heldNow] = useAtOnce<Path | null>(null); // while dragged; told to the route when let go
  const given = chosen?.op.op === "path" ? chosen.op : null;
  const op = held ?? given;
  if (!op || !chosen || !given) return { cursor: "default", help: "" };

  const near = (x: number, y: number, u: number, v: number): boolean => {
    const [sx, sy] = to.toScreen(u, v);
    return Math.hypot(x - sx, y - sy) <= NEAR;
  };
  const find = (x: number, y: number): Grip | null => {
    if (op.kind === "free") {
      for (const [index, k] of op.knots.entries()) {
        if (k.out && near(x, y, k.at[0] + k.out[0], k.at[1] + k.out[1])) return { of: "out", index };
        if (k.in && near(x, y, k.at[0] + k.in[0], k.at[1] + k.in[1])) return { of: "in", index };
        if (near(x, y, k.at[0], k.at[1])) return { of: "point", index };
      }
      return null;
    }
    const [bx, by, bw, bh] = op.box;
    for (const cx of [0, 1] as const)
      for (const cy of [0, 1] as const)
        if (near(x, y, bx + cx * bw, by + cy * bh)) return { of: "corner", x: cx, y: cy };
    const [u, v] = to.toArtwork(x, y);
    const within = u > bx && v > by && u < bx + bw && v < by + bh;
    return within ? { of: "all", from: [u, v], box: op.box } : null;
  };

  return {
    cursor: op.kind === "free" ? "crosshair" : "move",
    help:
      op.kind === "free"
        ? "Click sets a point, dragging curves it. Double click on a point: corner or smooth. Alt and click removes it."
        : "Drag a corner, or the whole outline. Shift keeps it as wide as high.",
    down: (e, x, y) => {
      grip.current = find(x, y);
      if (op.kind !== "free") return;
      if (grip.current?.of === "point" && e.altKey) {
        const { index } = grip.current;
        grip.current = null;
        return change(chosen.index, { ...op, knots: op.knots.filter((_, i) => i !== index) });
      }
      if (!grip.current) {
        grip.current = { of: "both", index: op.knots.length };
        setHeld({ ...op, knots: [...op.knots, { at: to.toArtwork(x, y) }] });
      }
    },
    moved: (e, x, y) => {
      if (grip.current)
        setHeld(dragged(heldNow() ?? op, grip.current, to.toArtwork(x, y), e.shiftKey, finish));
    },
    up: () => {
      const last = heldNow();
      if (grip.current && last) change(chosen.index, last);
      grip.current = null;
      setHeld(null);
    },
    twice: (x, y) => {
      const hit = find(x, y);
      if (hit?.of !== "point") return;
      change(chosen.index, {
        ...given,
        knots: given.knots.map((k, i) => (i === hit.index ? turned(given, i) : k)),
      });
    },
    draw: (pen) => drawShape(pen, op, to.toScreen, placed.width / finish.widthMm),
  };
}

function dragged(
  op: Path,
  grip: Grip,
  at: [number, number],
  square: boolean,
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
): Path {
  if (grip.of === "all") {
    const [bx, by, bw, bh] = grip.box;
    return { ...op, box: [bx + at[0] - grip.from[0], by + at[1] - grip.from[1], bw, bh] };
  }
  if (grip.of === "corner") {
    const [bx, by, bw, bh] = op.box;
    const fixed = [grip.x ? bx : bx + bw, grip.y ? by : by + bh];
    let [w, h] = [Math.max(0.005, Math.abs(at[0] - fixed[0])), Math.max(0.005, Math.abs(at[1] - fixed[1]))];
    if (square) {
      const mm = Math.max(w * widthMm, h * heightMm);
      [w, h] = [mm / widthMm, mm / heightMm];
    }
    return { ...op, box: [grip.x ? fixed[0] : fixed[0] - w, grip.y ? fixed[1] : fixed[1] - h, w, h] };
  }
  const knots = op.knots.map((k, i): Path["knots"][number] => {
    if (i !== grip.index) return k;
    const d: [number, number] = [at[0] - k.at[0], at[1] - k.at[1]];
    const back: [number, number] = [-d[0], -d[1]];
    if (grip.of === "point") return { ...k, at };
    if (grip.of === "in") return { ...k, in: d, out: k.out && back };
    return Math.hypot(...d) < 0.004 ? k : { ...k, out: d, in: back };
  });
  return { ...op, knots };
}

/** A corner becomes smooth along its neighbours, a smooth point a corner. */
function turned({ knots }: Path, i: number): Path["knots"][number] {
  const { at, in: back, out } = knots[i];
  if (back || out) return { at };
  const [a, b] = [knots[(i + knots.length - 1) % knots.length].at, knots[(i + 1) % knots.length].at];
  const d: [number, number] = [(b[0] - a[0]) / 6, (b[1] - a[1]) / 6];
  return { at, in: [-d[0], -d[1]], out: d };
}

function drawShape(
  pen: CanvasRenderingContext2D,
  op: Path,
  toScreen: (u: number, v: number) => [number, number],
  perMm: number,
): void {
  const knots = knotsOnScreen(op, toScreen, perMm);
  pen.beginPath();
  knots.forEach((k, i) => {
    if (i === 0) pen.moveTo(...k.at);
    const next = knots[(i + 1) % knots.length];
    if (op.kind === "free" && i === knots.length - 1 && knots.length < 3) return;
    const [o, n] = [k.out ?? [0, 0], next.in ?? [0, 0]];
    pen.bezierCurveTo(
      k.at[0] + o[0],
      k.at[1] + o[1],
      next.at[0] + n[0],
      next.at[1] + n[1],
      next.at[0],
      next.at[1],
    );
  });
  for (const [colour, width] of [
    ["#ffffff", 3.5],
    [LINE, 1.5],
  ] as const) {
    pen.strokeStyle = colour;
    pen.lineWidth = width;
    pen.stroke();
  }
  const dot = ([x, y]: readonly [number, number], smooth: boolean) => {
    pen.fillStyle = "#ffffff";
    pen.strokeStyle = LINE;
    pen.beginPath();
    if (smooth) pen.arc(x, y, 4, 0, 2 * Math.PI);
    else pen.rect(x - 3.5, y - 3.5, 7, 7);
    pen.fill();
    pen.stroke();
  };
  if (op.kind === "free") {
    for (const k of knots) {
      for (const h of [k.in, k.out]) {
        if (!h) continue;
        pen.beginPath();
        pen.moveTo(...k.at);
        pen.lineTo(k.at[0] + h[0], k.at[1] + h[1]);
        pen.lineWidth = 1;
        pen.stroke();
        dot([k.at[0] + h[0], k.at[1] + h[1]], true);
      }
      dot(k.at as [number, number], Boolean(k.in || k.out));
    }
    return;
  }
  const [bx, by, bw, bh] = op.box;
  for (const u of [bx, bx + bw]) for (const v of [by, by + bh]) dot(toScreen(u, v), false);
}

function knotsOnScreen(
  op: Path,
  toScreen: (u: number, v: number) => [number, number],
  perMm: number,
): Knot[] {
  if (op.kind === "free") {
    const origin = toScreen(0, 0);
    const scaled = (d?: readonly [number, number]): [number, number] | undefined => {
      if (!d) return undefined;
      const [x, y] = toScreen(d[0], d[1]);
      return [x - origin[0], y - origin[1]];
    };
    return op.knots.map((k) => ({ at: toScreen(k.at[0], k.at[1]), in: scaled(k.in), out: scaled(k.out) }));
  }
  const [x, y] = toScreen(op.box[0], op.box[1]);
  const [right, bottom] = toScreen(op.box[0] + op.box[2], op.box[1] + op.box[3]);
  if (op.kind === "round") return roundKnots(x, y, right - x, bottom - y);
  const corner = op.kind === "rounded" ? op.cornerMm * perMm : 0;
  return rectangleKnots(x, y, right - x, bottom - y, corner, corner);
}
