import { type MeasuredArea } from "@hardline/core/mockUp/photoArea";
import { type Point } from "@hardline/core/mockUp/surface";
import { type PhotoThing } from "@hardline/core/stage/mockUp/settings";
import { type Placed } from "../../../table/geometry";

interface Drawing {
  readonly handles: readonly Point[];
  readonly scaling: boolean;
  readonly found: MeasuredArea | null;
  readonly placed: Placed;
  readonly thing: PhotoThing;
  readonly toScreen: (at: Point) => Point;
}

const [LINE, PAPER] = ["#1f45c4", "#ffffff"];
/** Lines of the net that shows how the area lies, each way, and pieces of each. */
const [NET, PIECES] = [8, 24];

/** The area as a net over the photograph, and its handles. */
export function drawArea(pen: CanvasRenderingContext2D, drawing: Drawing): void {
  const { handles, scaling, found, placed, thing, toScreen } = drawing;
  if (found && !scaling) {
    const { x, y, width, height } = found.area.limits;
    const by = placed.width / thing.widthPx;
    const line = (from: Point, to: Point): void => {
      pen.beginPath();
      let down = false;
      for (let s = 0; s <= PIECES; s++) {
        const t = s / PIECES;
        const seen = found.surface.seen(from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t);
        if (!seen) {
          down = false;
          continue;
        }
        const [u, v] = [placed.x + seen[0] * by, placed.y + seen[1] * by];
        if (down) pen.lineTo(u, v);
        else pen.moveTo(u, v);
        down = true;
      }
      pen.stroke();
    };
    pen.lineWidth = 1;
    for (let k = 0; k <= NET; k++) {
      pen.strokeStyle = k === 0 || k === NET ? LINE : "rgba(31,69,196,0.45)";
      line([x + (k * width) / NET, y], [x + (k * width) / NET, y + height]);
      line([x, y + (k * height) / NET], [x + width, y + (k * height) / NET]);
    }
  }
  if (scaling) {
    pen.beginPath();
    pen.moveTo(...toScreen(handles[0]));
    pen.lineTo(...toScreen(handles[1]));
    pen.lineWidth = 2;
    pen.strokeStyle = LINE;
    pen.stroke();
  }
  for (const handle of handles) {
    const [x, y] = toScreen(handle);
    pen.beginPath();
    pen.arc(x, y, 6, 0, 2 * Math.PI);
    pen.fillStyle = PAPER;
    pen.fill();
    pen.lineWidth = 2;
    pen.strokeStyle = LINE;
    pen.stroke();
  }
}
