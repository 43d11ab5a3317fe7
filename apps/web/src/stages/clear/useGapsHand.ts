import { type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { turned } from "./opsModel";
import { placing } from "./placing";

/** Islands are switched by clicking on them. */
export function useGapsHand({ tools, finish, frame, placed, found }: HandProps): TableHand {
  const { chosen, change } = tools;
  const gaps = found?.find((g) => g.op === chosen?.index)?.gaps ?? [];
  const to = placing(placed, finish, frame);
  return {
    cursor: "pointer",
    help: "Click on an island to take it or to leave it. Taken: solid outline, left: dotted.",
    down: (_, sx, sy) => {
      if (chosen?.op.op !== "gaps") return;
      const [x, y] = to.toDots(sx, sy);
      const slack = 3 / placed.zoom; // small islands are hard to hit
      const hit = gaps
        .filter(
          (g) =>
            x >= g.x - slack && y >= g.y - slack && x < g.x + g.width + slack && y < g.y + g.height + slack,
        )
        .sort((a, b) => a.width * a.height - b.width * b.height)[0];
      if (hit) change(chosen.index, turned(chosen.op, hit, finish, frame));
    },
  };
}
