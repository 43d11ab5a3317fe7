import { type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { placing } from "./placing";

/** A place that was pointed at, in pixels of the screen: so large it is drawn, and so near a click takes it back. */
const [MARK, NEAR] = [5, 9];
/** Places in one operation. */
const MOST = 200;

/** Points at parts through which the ground is seen; a click on a place takes it back. */
export function useThroughHand({ tools, finish, frame, placed }: HandProps): TableHand {
  const { chosen, change } = tools;
  const op = chosen?.op.op === "through" ? chosen.op : null;
  const to = placing(placed, finish, frame);
  if (!op) return { cursor: "grab", help: "" };
  return {
    cursor: "crosshair",
    help: "Click on shadow, smoke or glass. Click on a place to take it back. Space moves the picture.",
    told: String(op.at.length),
    down: (_, x, y) => {
      if (!to.inside(x, y)) return;
      const near = op.at.findIndex((at) => {
        const [px, py] = to.toScreen(...at);
        return Math.hypot(px - x, py - y) <= NEAR;
      });
      const at = near < 0 ? [...op.at, to.toArtwork(x, y)] : op.at.toSpliced(near, 1);
      if (at.length > MOST) return;
      change(chosen!.index, { ...op, at });
    },
    draw: (pen) => {
      for (const at of op.at) {
        const [x, y] = to.toScreen(...at);
        pen.beginPath();
        pen.arc(x, y, MARK, 0, 2 * Math.PI);
        pen.fillStyle = "#fff";
        pen.fill();
        pen.lineWidth = 2;
        pen.strokeStyle = "#15181d";
        pen.stroke();
      }
    },
  };
}
