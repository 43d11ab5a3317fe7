import { onArtwork } from "@hardline/core/path/frame";
import { settingsOf } from "@hardline/core/route/route";
import { useAtOnce } from "../../shared/useAtOnce";
import { Surface } from "../../table/Surface";
import { type TableHand } from "../../table/hand";
import { type HandsProps } from "../face";
import { colouredAt, saidAt, takenBack } from "./model";
import { type ColourTools } from "./useColour";

type At = readonly [number, number];

/** While dragging, a place so far from the last one, on the screen, is another. */
const APART = 8;
const [GUIDE, WHITE] = ["#1d6b45", "#ffffff"];

/** A click colours the area under it, a drag each that it goes over; with Alt it is taken back. */
export function ColourHands({ scene, tools, finish, placed, box }: HandsProps<ColourTools>) {
  const settings = settingsOf(scene.route, "colour")!;
  const { frame } = scene;
  const { areas } = settings;
  const { colour, hand: what, note } = tools;
  const [drag, setDrag, dragNow] = useAtOnce<readonly At[] | null>(null);
  const perMm = placed.width / finish.widthMm;
  const on = { finish, frame };
  const placeAt = ([x, y]: At): At => onArtwork([(x - placed.x) / perMm, (y - placed.y) / perMm], on);
  const isOn = ([x, y]: At): boolean =>
    x >= placed.x && y >= placed.y && x < placed.x + placed.width && y < placed.y + placed.height;
  const set = (next: typeof areas) => scene.set("colour", { areas: next });
  const shade = (from: At, to: At) => {
    const k = saidAt(note, frame, from);
    const other = { colour, to: placeAt(to).map((v) => Math.min(1, Math.max(0, v))) as [number, number] };
    if (k < 0 || areas[k].colour === null) return;
    set(areas.map((area, j) => (j === k ? { ...area, at: from, shade: other } : area)));
  };
  const hand: TableHand = {
    cursor: what === "shade" ? "crosshair" : "cell",
    help:
      what === "shade"
        ? "Drag across a coloured area: it goes over into the colour in hand. Alt and a click take a colour back."
        : "Click an area, or drag over several. Alt and a click take one back; Shift and a click take up its colour.",
    told: `${areas.length} colours`,
    down: (e, x, y) => {
      if (!isOn([x, y])) return;
      const place = placeAt([x, y]);
      if (e.altKey) return set(takenBack(areas, note, frame, place));
      if (e.shiftKey) {
        const known = areas[saidAt(note, frame, place)]?.colour;
        if (known) tools.setColour(known);
        return;
      }
      setDrag([[x, y]]);
    },
    moved: (_e, x, y) => {
      const now = dragNow();
      if (!now) return;
      const last = now[now.length - 1];
      if (Math.hypot(x - last[0], y - last[1]) >= APART) setDrag([...now, [x, y]]);
    },
    up: () => {
      const now = dragNow();
      setDrag(null);
      if (!now) return;
      if (what === "shade") return now.length > 1 ? shade(placeAt(now[0]), now[now.length - 1]) : undefined;
      const places = now.filter(isOn).map(placeAt);
      set(colouredAt(areas, note, frame, places, colour));
    },
    draw: (pen) => {
      if (!drag || drag.length < 2) return;
      pen.lineJoin = "round";
      for (const [style, width] of [
        [WHITE, 6],
        [what === "shade" ? GUIDE : colour, 3],
      ] as const) {
        pen.beginPath();
        const line = what === "shade" ? [drag[0], drag[drag.length - 1]] : drag;
        line.forEach(([x, y], k) => (k === 0 ? pen.moveTo(x, y) : pen.lineTo(x, y)));
        pen.strokeStyle = style;
        pen.lineWidth = width;
        pen.stroke();
      }
    },
  };
  return <Surface hand={hand} box={box} />;
}
