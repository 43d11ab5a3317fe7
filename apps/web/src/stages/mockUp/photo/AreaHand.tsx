import { measuredArea, type PhotoArea } from "@hardline/core/mockUp/photoArea";
import { type Point } from "@hardline/core/mockUp/surface";
import { Surface } from "../../../table/Surface";
import { useAtOnce } from "../../../shared/useAtOnce";
import { type HandsProps } from "../../face";
import { type MockUpTools } from "../useMockUp";
import { handlesOf, rounded, withHandle } from "./area";
import { drawArea } from "./drawArea";
import { changePhoto, photoNow } from "./photoOn";

/** How near, in screen pixels, a handle must be to be taken. */
const NEAR = 14;

const HELP = {
  flat: "Drag the four corners of a flat part of the thing. Enter or Set up again: done.",
  round:
    "Drag the ends of the upper and of the lower edge to where the wall ends, and their middles onto the edges.",
  cloth: "Drag nine points of the cloth: corners, middles of the sides, and the middle.",
  scale: "Drag both ends onto two places whose distance you know.",
};

/** The places that tell how a photograph is to be read, dragged on it. */
export function AreaHand({ scene, tools, placed, box }: HandsProps<MockUpTools>) {
  const [grip, setGrip, gripNow] = useAtOnce<number | null>(null);
  const thing = photoNow(scene);
  if (!thing) return null;
  const { area } = thing;
  const scale = area.kind === "round" ? undefined : area.scale;
  const scaling = tools.hand === "scale" && scale !== undefined;
  const handles = scaling ? [scale.from, scale.to] : handlesOf(area);
  const toScreen = ([u, v]: Point): Point => [placed.x + u * placed.width, placed.y + v * placed.height];
  const toPhoto = (x: number, y: number): Point =>
    rounded([(x - placed.x) / placed.width, (y - placed.y) / placed.height]);
  const found = measuredArea(area as PhotoArea, { width: thing.widthPx, height: thing.heightPx });
  const move = (x: number, y: number): void => {
    const index = gripNow();
    const now = photoNow(scene);
    if (index === null || !now) return;
    if (!scaling) return changePhoto(scene, { area: withHandle(now.area, index, toPhoto(x, y)) });
    if (now.area.kind === "round" || !now.area.scale) return;
    const end = index === 0 ? "from" : "to";
    changePhoto(scene, { area: { ...now.area, scale: { ...now.area.scale, [end]: toPhoto(x, y) } } });
  };
  return (
    <Surface
      box={box}
      hand={{
        cursor: grip === null ? "crosshair" : "none",
        help: HELP[scaling ? "scale" : area.kind],
        told: handles.map((p) => p.map((v) => v.toFixed(4)).join(",")).join(" "),
        down: (_e, x, y) => {
          const near = handles
            .map((p, k) => ({ k, off: Math.hypot(toScreen(p)[0] - x, toScreen(p)[1] - y) }))
            .sort((a, b) => a.off - b.off)[0];
          if (near && near.off <= NEAR) setGrip(near.k);
        },
        moved: (_e, x, y) => move(x, y),
        up: () => setGrip(null),
        draw: (pen) => drawArea(pen, { handles, scaling, found, placed, thing, toScreen }),
      }}
    />
  );
}
