import { type Work } from "../maths/work";
import { newRgba, type Rect, type Rgba } from "../raster/types";
import { type Colourway } from "../recolour/colourway";
import { type MockUp } from "./result";
import { seenScene } from "./seen";
import { sceneOf } from "./stageOf";

/** A mock-up as a screen shows it. @param part  in its own dots */
export function* seenMockUp(
  of: MockUp,
  part: Rect,
  width: number,
  height: number,
  way: Colourway | null,
): Work<Rgba> {
  const scene = sceneOf(of, way);
  if (!scene) return newRgba(width, height);
  const by = scene.stage.width / of.finish.widthPx;
  const own = { x: part.x * by, y: part.y * by, width: part.width * by, height: part.height * by };
  return yield* seenScene(of.art, scene, own, width, height);
}
