import { type PathEdit } from "@hardline/core/edit/operations";
import { rectangleKnots, roundKnots } from "@hardline/core/path/outline";
import { type KnotPath } from "@hardline/core/path/pathSet";
import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { drawLine } from "./drawPoints";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { overOf } from "./usePathTools";

/** A drag shorter than this on the screen is a click: the typed sizes are taken. */
const CLICK = 4;

/** Circles, rectangles and lines: by a click with the sizes that are typed, or by dragging. */
export function useShapeHand({ tools, to }: HandOn): TableHand {
  const { hand, sizes, setSizes, edit } = tools;
  const over = overOf(tools.over);
  const [drag, setDrag, dragNow] = useAtOnce<{ from: At; to: At } | null>(null);
  const made = ({
    from,
    to: end,
  }: {
    from: At;
    to: At;
  }): { path: KnotPath; edit: PathEdit; sizes: object } => {
    const [dx, dy] = [end[0] - from[0], end[1] - from[1]];
    const dragged = Math.hypot(dx, dy) * to.perMm > CLICK;
    if (hand === "circle") {
      const d = dragged ? tidy(2 * Math.hypot(dx, dy)) : sizes.diameter;
      const knots = roundKnots(from[0] - d / 2, from[1] - d / 2, d, d);
      return {
        path: { knots, closed: true },
        edit: { edit: "circle", at: to.named(from), diameterMm: d, ...over },
        sizes: { diameter: d },
      };
    }
    if (hand === "rectangle") {
      const [w, h] = dragged ? [tidy(Math.abs(dx)), tidy(Math.abs(dy))] : [sizes.width, sizes.height];
      const middle: At = dragged ? [from[0] + dx / 2, from[1] + dy / 2] : from;
      const knots = rectangleKnots(middle[0] - w / 2, middle[1] - h / 2, w, h);
      return {
        path: { knots, closed: true },
        edit: { edit: "rectangle", at: to.named(middle), widthMm: w, heightMm: h, cornerMm: 0, ...over },
        sizes: { width: w, height: h },
      };
    }
    const last: At = dragged ? end : [from[0] + sizes.width, from[1]];
    return {
      path: { knots: [{ at: from }, { at: last }], closed: false },
      edit: { edit: "line", at: to.named(from), to: to.named(last) },
      sizes: {},
    };
  };
  return {
    cursor: "crosshair",
    help: {
      circle: "Click for a circle of the typed size, or drag from its middle.",
      rectangle: "Click for a rectangle of the typed size, or drag from corner to corner.",
      line: "Drag from one end to the other.",
    }[hand as "circle" | "rectangle" | "line"],
    down: (_e, x, y) => setDrag({ from: to.toMm(x, y), to: to.toMm(x, y) }),
    moved: (_e, x, y) => {
      const now = dragNow();
      if (now) setDrag({ ...now, to: to.toMm(x, y) });
    },
    up: () => {
      const now = dragNow();
      setDrag(null);
      if (!now) return;
      const { edit: one, sizes: used } = made(now);
      setSizes(used);
      edit([one]);
    },
    draw: (pen) => drag && drawLine(pen, made(drag).path, to, "#1d6b45"),
  };
}

/** A hundredth of a millimetre, and at least that. */
const tidy = (mm: number): number => Math.max(0.01, Math.round(mm * 100) / 100);
