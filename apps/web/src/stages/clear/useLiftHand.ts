import { type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { placing } from "./placing";
import { type PaperWish } from "./worker";

/** A lift with a paper colour of its own takes it from where the paper is clicked on. */
export function useLiftHand({ engine, tools, finish, frame, placed }: HandProps): TableHand {
  const { chosen, change } = tools;
  const op = chosen?.op.op === "lift" ? chosen.op : null;
  if (!op || op.paper === "auto") return { cursor: "grab", help: "" };
  const to = placing(placed, finish, frame);
  return {
    cursor: "crosshair",
    help: "Click on bare paper: its colour there is what is taken out.",
    down: (_, x, y) => {
      if (!to.inside(x, y)) return;
      const [u, v] = to.toDots(x, y).map(Math.floor);
      const wish: PaperWish = { x: u, y: v, light: op.light };
      void engine
        .ask<string>({ stage: "clear", name: "paper", wish })
        .then((paper) => paper && change(chosen!.index, { ...op, paper }));
    },
  };
}
