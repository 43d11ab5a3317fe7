import { measuredArea, type PhotoArea } from "@hardline/core/mockUp/photoArea";
import { type Point } from "@hardline/core/mockUp/surface";
import { clearOp, type ClearOp } from "@hardline/core/stage/clear/settings";
import { useState } from "react";
import { Surface } from "../../../table/Surface";
import { useAtOnce } from "../../../shared/useAtOnce";
import { type HandsProps } from "../../face";
import { type MockUpTools } from "../useMockUp";
import { rounded } from "./area";
import { changePhoto, photoNow } from "./photoOn";

/** Points of a stroke nearer to the last than this, in screen pixels, say nothing new. */
const APART = 2;

/** What stands in front of the print is painted over, or taken by its colour: the same that Clear does to a background. */
export function FrontHand({ scene, tools, placed, box }: HandsProps<MockUpTools>) {
  const [points, setPoints, pointsNow] = useAtOnce<readonly Point[]>([]);
  const [pointer, setPointer] = useState<Point | null>(null);
  const thing = photoNow(scene);
  if (!thing) return null;
  const found = measuredArea(thing.area as PhotoArea, { width: thing.widthPx, height: thing.heightPx });
  const { brushMm, paints, hand } = tools;
  const toPhoto = ([x, y]: Point): Point =>
    rounded([(x - placed.x) / placed.width, (y - placed.y) / placed.height]);
  /** Radius of the brush on the screen. */
  const radius = (brushMm / 2) * (found?.perMm ?? 1) * (placed.width / thing.widthPx);
  const add = (op: object): void => {
    const now = photoNow(scene);
    if (now) changePhoto(scene, { front: [...now.front, clearOp.parse(op)] });
  };
  const paint = (): void => {
    const drawn = pointsNow();
    setPoints([]);
    if (drawn.length === 0) return;
    const stroke = { points: drawn.map((p) => toPhoto(p)), sizeMm: brushMm, softness: 0.2 };
    const now = photoNow(scene);
    const last = now?.front.at(-1);
    if (now && last?.op === "brush" && last.paints === paints) {
      const more: ClearOp = { ...last, strokes: [...last.strokes, stroke as never] };
      changePhoto(scene, { front: [...now.front.slice(0, -1), more] });
    } else add({ op: "brush", paints, strokes: [stroke] });
  };
  if (hand === "frontColour")
    return (
      <Surface
        box={box}
        hand={{
          cursor: "crosshair",
          help: "Click what is in front: all that joins it in the same colour is in front too.",
          down: (_e, x, y) => {
            const at = toPhoto([x, y]);
            if (at.every((v) => v >= 0 && v <= 1)) add({ op: "pick", at, tolerance: 9, joined: true });
          },
        }}
      />
    );
  return (
    <Surface
      box={box}
      hand={{
        cursor: "none",
        help:
          paints === "away"
            ? "Paint over what is in front of the print."
            : "Paint what is not in front after all.",
        told: `${thing.front.length} in front`,
        down: (_e, x, y) => setPoints([[x, y]]),
        moved: (_e, x, y) => {
          setPointer([x, y]);
          const now = pointsNow();
          const last = now.at(-1);
          if (last && Math.hypot(last[0] - x, last[1] - y) >= APART) setPoints([...now, [x, y]]);
        },
        up: paint,
        left: () => setPointer(null),
        draw: (pen) => {
          if (points.length > 0) {
            pen.beginPath();
            pen.moveTo(...points[0]);
            for (const [x, y] of points) pen.lineTo(x + 0.1, y);
            pen.lineCap = pen.lineJoin = "round";
            pen.lineWidth = 2 * radius;
            pen.strokeStyle = "rgba(179,38,30,0.45)";
            pen.stroke();
          }
          if (!pointer) return;
          pen.beginPath();
          pen.arc(pointer[0], pointer[1], radius, 0, 2 * Math.PI);
          pen.lineWidth = 1.5;
          pen.strokeStyle = "#b3261e";
          pen.stroke();
        },
      }}
    />
  );
}
