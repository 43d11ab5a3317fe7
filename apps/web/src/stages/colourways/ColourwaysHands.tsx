import { stageById } from "@hardline/core/stage/stages";
import { answered } from "../../shared/answered";
import { Surface } from "../../table/Surface";
import { type ColourWish } from "../colourAt";
import { type FoundRange } from "../rangeAt";
import { type HandsProps } from "../face";
import { placeOnArt } from "../mockUp/placeOnArt";
import { type WayTools } from "./useWays";
import { changeFrom, changeWay, hasRoom } from "./ways";

/** A click on the picture adds a range of the colour that is there to the chosen colourway. */
export function ColourwaysHands({ scene, tools, engine, finish, placed, box }: HandsProps<WayTools>) {
  const { way, route } = scene;
  if (!tools.picking || !way) return null;
  const stage = route.stages.findLast((s) => stageById(s.stage).inColourways)?.stage;
  const add = async (x: number, y: number): Promise<void> => {
    if (!stage || !hasRoom(way)) return;
    const [u, v] = [(x - placed.x) / placed.zoom, (y - placed.y) / placed.zoom];
    if (u < 0 || v < 0 || u >= finish.widthPx || v >= finish.heightPx) return;
    const at = stage === "mockUp" ? placeOnArt(scene, finish, [u, v]) : ([u, v] as const);
    if (!at) return;
    const wish: ColourWish = { x: at[0], y: at[1] };
    const asked = engine.ask<FoundRange | null>({ stage, name: "range", wish });
    const found = await answered(asked, "The colour was not read");
    if (!found) return;
    changeWay(scene, way.name, { recolour: [...way.recolour, changeFrom(found.from, found)] });
    tools.setPicking(false);
  };
  return (
    <Surface
      box={box}
      hand={{
        cursor: "crosshair",
        help: "Click the colour that is to become another. Space moves the picture.",
        down: (_, x, y) => void add(x, y),
      }}
    />
  );
}
