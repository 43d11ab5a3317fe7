import { placed, type PlacedPrint } from "@hardline/core/mockUp/place";
import { type Point, type Surface } from "@hardline/core/mockUp/surface";
import { useState } from "react";
import { useAtOnce } from "../../shared/useAtOnce";
import { useUnit } from "../../shared/unit";
import { Surface as TableSurface } from "../../table/Surface";
import { type HandsProps } from "../face";
import { ARROWS } from "../size/wholeOnTable";
import { drawPrints, turnHandle } from "./drawPrints";
import { areaAt, onThing, printUnder, unitsOf } from "./onThing";
import { changePrint } from "./prints";
import { snapPrint, type Snapped } from "./snapPrint";
import { useArrows } from "./useArrows";
import { type MockUpTools } from "./useMockUp";

/** A print in hand: which, where it was, and where the pointer took hold of it. */
interface Grip {
  readonly index: number;
  readonly surface: Surface;
  readonly from: Point;
  readonly print: PlacedPrint;
  readonly turns: boolean;
}

/** How near, in screen pixels, a line must be for a print to be drawn to it, and a handle for it to be taken. */
const [NEAR, HANDLE] = [7, 11];

/** Prints are dragged where they are seen; their distances are told as they move. */
export function PrintsHand({ scene, tools, finish, placed: table, box }: HandsProps<MockUpTools>) {
  const [grip, setGrip, gripNow] = useAtOnce<Grip | null>(null);
  const [snapped, setSnapped] = useState<Snapped | null>(null);
  const { unit } = useUnit();
  const on = onThing(scene);
  const chosen = on ? Math.min(tools.chosen, on.prints.length - 1) : 0;
  useArrows((e) => {
    if (!on) return;
    const print = on.prints[chosen];
    const by = e.shiftKey ? 10 : 1;
    const [dx, dy] = ARROWS[e.key];
    changePrint(scene, chosen, {
      at: rounded([print.middle[0] + by * dx, print.box.y + by * dy]),
      area: print.area.name,
    });
  });
  if (!on) return null;
  const { layout, prints } = on;
  /** Screen pixels to one of the thing's units. */
  const scale = table.width / layout.width;
  const toUnits = (x: number, y: number): Point =>
    unitsOf(layout, finish, [(x - table.x) / table.zoom, (y - table.y) / table.zoom]);
  const toScreen = ([x, y]: Point): Point => [table.x + x * scale, table.y + y * scale];
  const nearMm = NEAR / (scale * layout.perMm);

  const take = (x: number, y: number): void => {
    const at = toUnits(x, y);
    const own = prints[chosen];
    const handle = own && turnHandle(own, toScreen, nearMm);
    if (handle && Math.hypot(handle[0] - x, handle[1] - y) <= HANDLE) {
      const surface = own.area.surfaces[0];
      const from = areaAt(surface, at);
      if (from) setGrip({ index: chosen, surface, from, print: own, turns: true });
      return;
    }
    const found = printUnder(prints, at);
    if (!found) return;
    tools.setChosen(found.index);
    const from = areaAt(found.surface, at);
    if (from)
      setGrip({ index: found.index, surface: found.surface, from, print: prints[found.index], turns: false });
  };

  const move = (x: number, y: number, free: boolean, even: boolean): void => {
    const held = gripNow();
    const place = held && areaAt(held.surface, toUnits(x, y));
    if (!held || !place) return;
    const { print } = held;
    if (held.turns) {
      const angle = ([x, y]: Point): number => Math.atan2(y - print.middle[1], x - print.middle[0]);
      const by = ((angle(place) - angle(held.from)) * 180) / Math.PI;
      const degrees = ((print.turn + by + 540) % 360) - 180;
      const step = even ? 15 : 1;
      const turn = Math.round(degrees / step) * step;
      // About its middle: its upper edge lies elsewhere then.
      const next = placed({ at: [0, 0], turn, scale: print.scale }, layout.places, sizeOf(print));
      const at: Point = [print.middle[0], print.middle[1] - next.box.height / 2];
      return changePrint(scene, held.index, { turn, at: rounded(at), area: print.area.name });
    }
    const wanted: Point = [print.middle[0] + place[0] - held.from[0], print.box.y + place[1] - held.from[1]];
    const next = free
      ? { at: wanted, x: null, y: null }
      : snapPrint(wanted, print, layout.places.places, nearMm);
    setSnapped(next);
    changePrint(scene, held.index, { at: rounded(next.at), area: print.area.name });
  };
  const drop = (): void => {
    setGrip(null);
    setSnapped(null);
  };

  return (
    <TableSurface
      box={box}
      hand={{
        cursor: grip ? "grabbing" : "default",
        help: "Drag a print; its round handle turns it. Alt: free of lines. Arrows move it by 1 mm.",
        told: prints.map((p) => `${p.middle[0].toFixed(2)},${p.box.y.toFixed(2)},${p.turn}`).join(" "),
        down: (_e, x, y) => take(x, y),
        moved: (e, x, y) => move(x, y, e.altKey, e.shiftKey),
        up: drop,
        left: () => undefined,
        draw: (pen) =>
          drawPrints(pen, { prints, chosen, toScreen, snapped, moving: grip !== null, nearMm, unit }),
      }}
    />
  );
}

/** A tenth of a millimetre is finer than any press. */
const rounded = ([x, y]: Point): [number, number] => [Math.round(10 * x) / 10, Math.round(10 * y) / 10];

const sizeOf = ({ widthMm, heightMm, scale }: PlacedPrint) => ({
  width: widthMm / scale,
  height: heightMm / scale,
});
