import { type CutGap } from "@hardline/core/cutLine/gaps";
import { onArtwork } from "@hardline/core/path/frame";
import { settingsOf } from "@hardline/core/route/route";
import { Surface } from "../../table/Surface";
import { tagsApart } from "../../table/tagsApart";
import { type TableHand } from "../../table/hand";
import { useAtOnce } from "../../shared/useAtOnce";
import { type HandsProps } from "../face";
import { PathHands } from "../paths/PathHands";
import { type PathTools } from "../paths/usePathTools";
import { rounded, turned } from "./turned";
import { type CutNote } from "./worker";

const [INK, STAMP, GUIDE] = ["#15181d", "#1f45c4", "#1d6b45"];
/** Tags of gaps that are drawn; more would hide the picture. */
const MOST_TAGS = 40;

/** On the light table gaps are clicked open or filled, and the tab is dragged along the outline. */
export function CutLineHands(props: HandsProps<PathTools>) {
  return props.tools.hand === null ? <LineHand {...props} /> : <PathHands {...props} />;
}

function LineHand({ scene, finish, placed, box }: HandsProps<PathTools>) {
  const settings = settingsOf(scene.route, "cutLine")!;
  const { gaps: wish, tab } = settings;
  const note = scene.shown?.notes.cutLine as CutNote | undefined;
  const [dragged, setDragged, draggedNow] = useAtOnce<readonly [number, number] | null>(null);
  const perMm = placed.width / finish.widthMm;
  const toScreen = ([x, y]: readonly [number, number]) =>
    [placed.x + x * perMm, placed.y + y * perMm] as const;
  const toMm = (x: number, y: number) => [(x - placed.x) / perMm, (y - placed.y) / perMm] as const;
  const on = { finish, frame: scene.frame };
  const gaps = note?.gaps.slice(0, MOST_TAGS) ?? [];
  const tabAt = dragged ?? note?.tabAt ?? null;

  const isOnTab = (x: number, y: number): boolean => {
    if (!tab || !tabAt) return false;
    const [tx, ty] = toScreen(tabAt);
    return Math.hypot(x - tx, y - ty) <= Math.max(10, (tab.ringMm / 2) * perMm);
  };
  const gapAt = (x: number, y: number): CutGap | undefined => {
    const [mx, my] = toMm(x, y);
    const slack = 4 / perMm;
    return gaps
      .filter(
        ({ box: b }) =>
          mx >= b.xMm - slack &&
          my >= b.yMm - slack &&
          mx <= b.xMm + b.widthMm + slack &&
          my <= b.yMm + b.heightMm + slack,
      )
      .sort((a, b) => a.areaMm2 - b.areaMm2)[0];
  };
  const hand: TableHand = {
    cursor: dragged ? "grabbing" : "pointer",
    help: tab
      ? "Click a gap to fill it or to keep it open. Drag the tab along the outline."
      : "Click a gap to fill it or to keep it open.",
    told: `${gaps.length} gaps`,
    down: (_e, x, y) => {
      if (isOnTab(x, y)) return setDragged(toMm(x, y));
      const gap = gapAt(x, y);
      if (gap) scene.set("cutLine", { gaps: turned(wish, gap, on) });
    },
    moved: (_e, x, y) => {
      if (draggedNow()) setDragged(toMm(x, y));
    },
    up: () => {
      const at = draggedNow();
      if (at && tab) scene.set("cutLine", { tab: { ...tab, at: rounded(onArtwork(at, on)) } });
      setDragged(null);
    },
    draw: (pen) => {
      const tags = gaps.map((gap, k) => ({ at: toScreen(gap.at), ...tagSize(String(k + 1)) }));
      tagsApart(tags).forEach((to, k) => drawTag(pen, tags[k].at, to, String(k + 1), gaps[k].filled));
      if (tab && dragged) {
        pen.strokeStyle = GUIDE;
        pen.setLineDash([1.5, 3]);
        pen.lineWidth = 1.5;
        for (const size of [tab.holeMm, tab.ringMm]) {
          pen.beginPath();
          pen.arc(...toScreen(dragged), (size / 2) * perMm, 0, 2 * Math.PI);
          pen.stroke();
        }
        pen.setLineDash([]);
      } else if (tab && tabAt) {
        const [x, y] = toScreen(tabAt);
        pen.fillStyle = "#fff";
        pen.strokeStyle = STAMP;
        pen.lineWidth = 1.5;
        pen.beginPath();
        pen.arc(x, y, 4, 0, 2 * Math.PI);
        pen.fill();
        pen.stroke();
      }
    },
  };
  return <Surface hand={hand} box={box} />;
}

const tagSize = (text: string) => ({ width: Math.max(18, 10 + 7 * text.length), height: 17 });

/** A gap's number: on ink where it stays open, on white where it is filled. Away from its gap, a line leads there. */
function drawTag(
  pen: CanvasRenderingContext2D,
  from: readonly [number, number],
  [x, y]: readonly [number, number],
  text: string,
  filled: boolean,
) {
  const { width: w, height: h } = tagSize(text);
  if (from[0] !== x || from[1] !== y) {
    pen.strokeStyle = INK;
    pen.lineWidth = 1;
    pen.beginPath();
    pen.moveTo(...from);
    pen.lineTo(x, y);
    pen.stroke();
  }
  pen.fillStyle = filled ? "#ffffff" : INK;
  pen.strokeStyle = filled ? INK : "#ffffff";
  pen.lineWidth = 1;
  pen.beginPath();
  pen.rect(Math.round(x - w / 2) + 0.5, Math.round(y - h / 2) + 0.5, w, h);
  pen.fill();
  pen.stroke();
  pen.fillStyle = filled ? INK : "#ffffff";
  pen.font = "500 11.5px 'IBM Plex Mono', monospace";
  pen.textAlign = "center";
  pen.textBaseline = "middle";
  pen.fillText(text, x + 0.5, y + 1);
}
