import { nearestOnPaths } from "@hardline/core/edit/find";
import { type TableHand } from "../../../table/hand";
import { useAtOnce } from "../../../shared/useAtOnce";
import { useKeys } from "../../../shared/keys";
import { type HandOn } from "../handOn";
import { type At } from "../onTable";
import { added, NEAR, round } from "../usePathsHand";
import { usePreview, type Preview } from "./usePreview";
import { changed, newText, textsIn, type TextEdit } from "./textEdits";

const GUIDE = "#1d6b45";
/** Moves shorter than this on the screen are a click. */
const CLICK = 3;

/** Words are chosen by a click and dragged; a click beside puts new ones there. */
export function useWordsHand({ tools, to, texts, paths, piece }: HandOn): TableHand {
  const [drag, setDrag, dragNow] = useAtOnce<{ from: At; by: At; at: number } | null>(null);
  const { edits, textAt, setTextAt, keepEdits } = tools;
  const own = textsIn(edits).find((t) => t.at === textAt);
  const preview = usePreview(own?.edit, paths);
  const boxAt = ([x, y]: At) =>
    texts.find(
      ({ box }) => box && x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height,
    );
  useKeys([
    [
      "Delete",
      () => {
        if (textAt === null || !own) return;
        setTextAt(null);
        keepEdits(edits.filter((_, k) => k !== textAt));
      },
    ],
  ]);
  return {
    cursor: drag ? "grabbing" : "text",
    help:
      own?.edit.along?.kind === "path"
        ? "Click the path that the words are to stand on."
        : "Click for new words; click words to change them, drag them to move them.",
    told: `${texts.length} texts`,
    down: (_e, x, y) => {
      const mm = to.toMm(x, y);
      if (own?.edit.along?.kind === "path") {
        const hit = nearestOnPaths(paths, mm, NEAR / to.perMm);
        if (hit) {
          const at = to.named(hit.at);
          return keepEdits(changed(edits, own.at, { at, along: { ...own.edit.along, at } }));
        }
      }
      const hit = boxAt(mm);
      if (hit) {
        setTextAt(hit.edit);
        return setDrag({ from: mm, by: [0, 0], at: hit.edit });
      }
      setTextAt(edits.length);
      keepEdits([...edits, newText(to.named(mm), textsIn(edits).at(-1)?.edit, piece.heightMm)]);
    },
    moved: (_e, x, y) => {
      const now = dragNow();
      if (!now) return;
      const mm = to.toMm(x, y);
      setDrag({ ...now, by: [mm[0] - now.from[0], mm[1] - now.from[1]] });
    },
    up: () => {
      const now = dragNow();
      setDrag(null);
      if (!now || Math.hypot(...now.by) * to.perMm <= CLICK) return;
      const edit = edits[now.at];
      if (edit?.edit !== "text" || edit.along?.kind === "path") return;
      keepEdits(changed(edits, now.at, { at: to.named(added(to.mmOf(edit.at), round(now.by))) }));
    },
    draw: (pen) => {
      if (preview && own) drawPreview(pen, preview, own.edit);
      const shown = texts.find((t) => t.edit === textAt)?.box;
      if (!shown) return;
      const by: At = drag?.at === textAt ? drag.by : [0, 0];
      const [[x, y], [u, v]] = [
        to.toScreen(added([shown.x, shown.y], by)),
        to.toScreen(added([shown.x + shown.width, shown.y + shown.height], by)),
      ];
      pen.strokeStyle = GUIDE;
      pen.setLineDash([2, 3]);
      pen.lineWidth = 1.5;
      pen.strokeRect(x - 3, y - 3, u - x + 6, v - y + 6);
      const room = own?.edit.box;
      if (room && !own.edit.along) {
        const [cx, cy] = to.toScreen(added(to.mmOf(own.edit.at), by));
        const [w, h] = [room.widthMm * to.perMm, room.heightMm * to.perMm];
        pen.strokeStyle = "#1f45c4";
        pen.lineWidth = 1;
        pen.save();
        pen.translate(cx, cy);
        pen.rotate((own.edit.turnDegrees * Math.PI) / 180);
        pen.strokeRect(
          own.edit.align === "left" ? 0 : own.edit.align === "right" ? -w : -w / 2,
          -h / 2,
          w,
          h,
        );
        pen.restore();
      }
      pen.setLineDash([]);
    },
  };

  /** New words over what is still shown of the old. */
  function drawPreview(pen: CanvasRenderingContext2D, { path, isLines }: Preview, edit: TextEdit): void {
    const old = texts.find((t) => t.edit === textAt)?.box;
    if (old && !edit.along) {
      const [x, y] = to.toScreen([old.x, old.y]);
      pen.fillStyle = "rgba(255, 255, 255, 0.9)";
      pen.fillRect(x - 1, y - 1, old.width * to.perMm + 2, old.height * to.perMm + 2);
    }
    if (!path) return;
    pen.save();
    pen.translate(...to.toScreen(to.mmOf(edit.at)));
    pen.rotate((edit.turnDegrees * Math.PI) / 180);
    pen.scale(to.perMm, to.perMm);
    pen.fillStyle = pen.strokeStyle = isLines ? "#1f45c4" : "#15181d";
    pen.lineWidth = 1.5 / to.perMm;
    if (isLines) pen.stroke(path);
    else pen.fill(path, "evenodd");
    pen.restore();
  }
}
