import { placed, type PlacedPrint } from "@hardline/core/mockUp/place";
import { type Point, type Surface } from "@hardline/core/mockUp/surface";
import { type Finish } from "@hardline/core/result/finish";
import { settingsOf } from "@hardline/core/route/route";
import { layoutOf, type Layout } from "@hardline/core/stage/mockUp/layout";
import { type MockUpSettings } from "@hardline/core/stage/mockUp/settings";
import { type BenchScene } from "../face";
import { type MockUpNote } from "./worker";

/** A thing and the prints on it, as hands and panel know them. */
export interface OnThing {
  readonly settings: MockUpSettings;
  readonly layout: Layout;
  readonly prints: readonly PlacedPrint[];
}

/** Null where the route has no mock-up, or its photograph's places make no sense. */
export function onThing({
  route,
  shown,
  finish,
}: Pick<BenchScene, "route" | "shown" | "finish">): OnThing | null {
  const settings = settingsOf(route, "mockUp");
  const layout = settings && layoutOf(settings);
  if (!layout || !finish) return null;
  const note = shown?.notes.mockUp as MockUpNote | undefined;
  const art = note?.art ?? { width: finish.widthMm, height: finish.heightMm };
  return { settings, layout, prints: settings.prints.map((p) => placed(p, layout.places, art)) };
}

/** A place of the canvas, in its dots, in the thing's own units. */
export const unitsOf = ({ width }: Layout, canvas: Finish, [x, y]: Point): Point => {
  const by = width / canvas.widthPx;
  return [x * by, y * by];
};

/** A place of a print from its middle, in mm along its own sides, on its area. */
export const ownOn = ({ middle, turn }: PlacedPrint, x: number, y: number): Point => {
  const turned = (Math.PI * turn) / 180;
  const [c, s] = [Math.cos(turned), Math.sin(turned)];
  return [middle[0] + c * x - s * y, middle[1] + s * x + c * y];
};

/** The other way round: a place of the area, from the print's middle along its own sides. */
export const onOwn = ({ middle, turn }: PlacedPrint, [x, y]: Point): Point => {
  const turned = (Math.PI * turn) / 180;
  const [c, s] = [Math.cos(turned), Math.sin(turned)];
  const [dx, dy] = [x - middle[0], y - middle[1]];
  return [c * dx + s * dy, c * dy - s * dx];
};

const into = new Float64Array(2);

/** The place of an area that a surface shows at a place in the thing's units; null where it shows none. */
export const areaAt = (surface: Surface, [x, y]: Point): Point | null =>
  surface.at(x, y, into) ? [into[0], into[1]] : null;

/** The print that lies under a place in the thing's units, uppermost first, and the surface it is seen on. */
export function printUnder(
  prints: readonly PlacedPrint[],
  at: Point,
): { readonly index: number; readonly surface: Surface; readonly own: Point } | null {
  for (let index = prints.length - 1; index >= 0; index--) {
    const print = prints[index];
    for (const surface of print.area.surfaces) {
      const place = areaAt(surface, at);
      if (!place) continue;
      const own = onOwn(print, place);
      if (Math.abs(own[0]) <= print.widthMm / 2 && Math.abs(own[1]) <= print.heightMm / 2)
        return { index, surface, own };
    }
  }
  return null;
}
