import { useState } from "react";
import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";

/** Places closer than this on the screen add nothing to a stroke. */
const STEP = 3;
const MOST = 1500;

/** Lines are evened out by rubbing along them. */
export function useRubHand({ tools, to }: HandOn): TableHand {
  const { sizes, setSizes, edit } = tools;
  const [stroke, setStroke, strokeNow] = useAtOnce<readonly At[] | null>(null);
  const [pointer, setPointer] = useState<At | null>(null);
  return {
    cursor: "none",
    help: `Rub along a line to even it out. Alt and the wheel: reach ${sizes.reach} mm.`,
    down: (_e, x, y) => setStroke([to.toMm(x, y)]),
    moved: (_e, x, y) => {
      setPointer([x, y]);
      const now = strokeNow();
      if (!now) return;
      const mm = to.toMm(x, y);
      const last = now[now.length - 1];
      if (now.length < MOST && Math.hypot(mm[0] - last[0], mm[1] - last[1]) * to.perMm >= STEP)
        setStroke([...now, mm]);
    },
    up: () => {
      const now = strokeNow();
      setStroke(null);
      if (now) edit([{ edit: "rub", along: now.map(to.named), reachMm: sizes.reach }]);
    },
    left: () => setPointer(null),
    wheel: (more) =>
      setSizes({
        reach: Math.min(20, Math.max(0.1, Math.round(sizes.reach * (more ? 1.25 : 0.8) * 100) / 100)),
      }),
    draw: (pen) => {
      const wide = Math.max(3, 2 * sizes.reach * to.perMm);
      if (stroke) {
        pen.strokeStyle = "rgb(29 107 69 / 30%)";
        pen.lineWidth = wide;
        pen.lineCap = pen.lineJoin = "round";
        pen.beginPath();
        stroke.forEach((p, k) => pen[k === 0 ? "moveTo" : "lineTo"](...to.toScreen(p)));
        if (stroke.length === 1) pen.lineTo(...to.toScreen([stroke[0][0] + 1e-6, stroke[0][1]]));
        pen.stroke();
      }
      if (!pointer) return;
      pen.strokeStyle = "#1d6b45";
      pen.lineWidth = 1.25;
      pen.beginPath();
      pen.arc(pointer[0], pointer[1], wide / 2, 0, 2 * Math.PI);
      pen.stroke();
    },
  };
}
