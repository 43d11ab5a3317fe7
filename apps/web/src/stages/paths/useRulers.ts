import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { useUnit, useWords } from "../../shared/unit";
import { type HandOn } from "./handOn";
import { drawGuides, drawRulers, label, RULER } from "./drawGuides";

/** How near the pointer must come to a guide, on the screen. */
const NEAR = 5;
const MM_PER_INCH = 25.4;
/** So many guides each way. */
const MOST = 50;

interface Pulled {
  readonly axis: "x" | "y";
  /** The guide that it was; null for a new one. */
  readonly was: number | null;
  readonly at: number;
}

/**
 * Rulers along the light table around a hand: a guide is pulled out of either, moved by its line, and taken away by pulling it
 * back. Everything else is the hand's.
 */
export function useRulers({ tools, to, box }: HandOn, hand: TableHand): TableHand {
  const { guides, setGuides } = tools;
  const { unit } = useUnit();
  const words = useWords();
  const [pulled, setPulled, pulledNow] = useAtOnce<Pulled | null>(null);
  const onGuide = (x: number, y: number): Pulled | null => {
    if (guides.locked) return null;
    for (const axis of ["x", "y"] as const)
      for (const at of guides[axis]) {
        const [sx, sy] = to.toScreen([at, at]);
        if (Math.abs(axis === "x" ? x - sx : y - sy) <= NEAR) return { axis, was: at, at };
      }
    return null;
  };
  const begun = (x: number, y: number): Pulled | null => {
    // Out of the upper ruler comes a level guide, out of the left one an upright one.
    if (y < RULER && x > RULER) return { axis: "y", was: null, at: to.toMm(x, y)[1] };
    if (x < RULER && y > RULER) return { axis: "x", was: null, at: to.toMm(x, y)[0] };
    return null;
  };
  return {
    ...hand,
    rulers: true,
    down: (e, x, y) => {
      const own = begun(x, y) ?? (e.altKey || e.shiftKey ? null : onGuide(x, y));
      if (own) return setPulled(own);
      hand.down?.(e, x, y);
    },
    moved: (e, x, y) => {
      const now = pulledNow();
      if (!now) return hand.moved?.(e, x, y);
      const mm = to.toMm(x, y)[now.axis === "x" ? 0 : 1];
      setPulled({
        ...now,
        at: x < RULER && now.axis === "x" ? NaN : y < RULER && now.axis === "y" ? NaN : tidy(mm),
      });
    },
    up: () => {
      const now = pulledNow();
      if (!now) return hand.up?.();
      setPulled(null);
      const others = guides[now.axis].filter((at) => at !== now.was);
      const made = Number.isNaN(now.at) ? others : [...others, now.at].slice(-MOST);
      setGuides({ ...guides, [now.axis]: made });
    },
    draw: (pen) => {
      hand.draw?.(pen);
      drawGuides(pen, guides, to, box);
      if (pulled && !Number.isNaN(pulled.at)) {
        drawGuides(pen, { x: [], y: [], locked: false, [pulled.axis]: [pulled.at] }, to, box);
        const [x, y] = to.toScreen([pulled.at, pulled.at]);
        label(pen, pulled.axis === "x" ? [x, 60] : [60, y], words(`${pulled.at} mm`));
      }
      drawRulers(pen, to, box, unit === "mm" ? 1 : MM_PER_INCH);
    },
  };
}

const tidy = (mm: number): number => Math.round(mm * 10) / 10;
