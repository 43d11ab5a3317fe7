import { type PathEdit } from "@hardline/core/edit/operations";
import { useEffect, useRef } from "react";
import { type HandOn } from "./handOn";
import { type At } from "./onTable";
import { added } from "./usePathsHand";

const ARROWS: Record<string, At> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** With Shift a step is so many. */
const FAR = 10;

/** Moves what is chosen by steps. @returns whether there was anything */
export function nudged({ tools, to }: HandOn, [dx, dy]: At): boolean {
  const { chosen, sizes, edit } = tools;
  if (chosen.at.length === 0) return false;
  const by: At = [dx * sizes.step, dy * sizes.step];
  const after = chosen.at.map((at) => to.named(added(to.mmOf(at), by)));
  const edits = chosen.at.map((at, k): PathEdit =>
    chosen.kind === "paths" ? { edit: "move", at, byMm: by } : { edit: "movePoint", at, to: after[k] },
  );
  edit(edits, { ...chosen, at: after });
  return true;
}

/** While a path or point is chosen, arrows are its, before the light table has them. */
export function useNudges(act: (by: At) => boolean): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const way = ARROWS[e.key];
      if (!way || e.ctrlKey || e.metaKey || e.altKey) return;
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return;
      const far = e.shiftKey ? FAR : 1;
      if (!latest.current([way[0] * far, way[1] * far])) return;
      e.preventDefault();
      e.stopPropagation();
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, []);
}
