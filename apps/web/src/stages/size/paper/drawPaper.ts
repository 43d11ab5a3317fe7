import { curveThrough } from "@hardline/core/paper/curled";
import { type Lens } from "@hardline/core/paper/lens";
import { type Paper } from "@hardline/core/paper/settings";
import { type Box } from "../../../table/geometry";
import { handlesOf, type Handle } from "./handles";
import { type Place } from "./usePaper";

const [LINE, GRIP] = ["#1f45c4", "#0f9d58"];
/** The magnifier: its side on the screen, and how many times larger it shows what is under the corner. */
const [SIDE, TIMES, BESIDE] = [150, 6, 34];

interface Drawn {
  readonly box: Box;
  readonly on: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly photograph: ImageBitmap | null;
  readonly paper: Paper | null;
  readonly lens: Lens | null;
  /** Of the artwork, in pixels. */
  readonly size: Box;
  readonly toScreen: (place: Place) => readonly [number, number];
  /** The handle in hand, or the last one. */
  readonly grip: Handle;
  readonly magnified: Handle | null;
}

/** The photograph, what is outside the paper held back, the paper's edges and its handles. */
export function drawPaper(pen: CanvasRenderingContext2D, drawn: Drawn): void {
  const { box, on, photograph, paper, toScreen, grip, magnified } = drawn;
  pen.fillStyle = "#a8abae";
  pen.fillRect(0, 0, box.width, box.height);
  if (photograph) pen.drawImage(photograph, on.x, on.y, on.width, on.height);
  if (!paper) return;
  const outline = edgesOf(drawn, paper);
  pen.fillStyle = "rgb(20 24 29 / 55%)";
  pen.beginPath();
  pen.rect(on.x, on.y, on.width, on.height);
  follow(pen, outline);
  pen.fill("evenodd");
  stroked(pen, outline, 1.5);
  for (const handle of handlesOf(paper)) {
    const [x, y] = toScreen(handle.place);
    const taken = handle.of === grip.of && handle.at === grip.at;
    pen.beginPath();
    if (handle.of === "corners") pen.arc(x, y, 8, 0, 2 * Math.PI);
    else pen.rect(x - 5, y - 5, 10, 10);
    pen.lineWidth = 4;
    pen.strokeStyle = "rgb(255 255 255 / 90%)";
    pen.stroke();
    pen.lineWidth = 2;
    pen.strokeStyle = taken ? GRIP : LINE;
    pen.stroke();
  }
  const held = magnified && handlesOf(paper).find((h) => h.of === magnified.of && h.at === magnified.at);
  if (held && photograph) magnify(pen, drawn, photograph, held.place, outline);
}

/** The paper's edges as the lens and the curl have them, on the screen. */
function edgesOf({ lens, size, toScreen }: Drawn, { corners, curled }: Paper): Line {
  const [a, b, c, d] = corners;
  const straight = ([u, v]: Place): Place => {
    const [x, y] = lens!.straight([u * size.width, v * size.height]);
    return [x / size.width, y / size.height];
  };
  const seen = ([u, v]: readonly [number, number]): Place => {
    const [x, y] = lens!.seen([u * size.width, v * size.height]);
    return [x / size.width, y / size.height];
  };
  const along = (through: readonly Place[]): Line => {
    const curve = curveThrough(through.map(straight));
    return Array.from({ length: 33 }, (_, k) => toScreen(seen(curve(k / 32))));
  };
  const [top, foot] = curled ? [curled.top, [...curled.foot].reverse()] : [[], []];
  return [...along([a, ...top, b]), ...along([b, c]), ...along([c, ...foot, d]), ...along([d, a])];
}

type Line = readonly (readonly [number, number])[];

function follow(pen: CanvasRenderingContext2D, line: Line): void {
  line.forEach(([x, y], k) => (k === 0 ? pen.moveTo(x, y) : pen.lineTo(x, y)));
  pen.closePath();
}

function stroked(pen: CanvasRenderingContext2D, line: Line, width: number): void {
  pen.beginPath();
  follow(pen, line);
  pen.strokeStyle = LINE;
  pen.lineWidth = width;
  pen.stroke();
}

/** What lies under a place, several times as large, beside it and within the table. */
function magnify(
  pen: CanvasRenderingContext2D,
  { box, on, toScreen }: Drawn,
  photograph: ImageBitmap,
  place: Place,
  outline: Line,
): void {
  const [x, y] = toScreen(place);
  const left = x + BESIDE + SIDE < box.width ? x + BESIDE : x - BESIDE - SIDE;
  const top = Math.min(
    box.height - SIDE - 8,
    Math.max(8, y - BESIDE - SIDE > 8 ? y - BESIDE - SIDE : y + BESIDE),
  );
  pen.save();
  pen.beginPath();
  pen.rect(left, top, SIDE, SIDE);
  pen.clip();
  pen.fillStyle = "#a8abae";
  pen.fillRect(left, top, SIDE, SIDE);
  pen.translate(left + SIDE / 2, top + SIDE / 2);
  pen.scale(TIMES, TIMES);
  pen.translate(-x, -y);
  pen.imageSmoothingEnabled = false;
  pen.drawImage(photograph, on.x, on.y, on.width, on.height);
  stroked(pen, outline, 1.2 / TIMES);
  pen.restore();
  pen.strokeStyle = "#fff";
  pen.lineWidth = 3;
  pen.strokeRect(left, top, SIDE, SIDE);
  pen.strokeStyle = "#15181d";
  pen.lineWidth = 1;
  pen.strokeRect(left, top, SIDE, SIDE);
}
