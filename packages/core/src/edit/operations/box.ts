import { z } from "zod";
import { type KnotPath } from "../../path/pathSet";
import { type Point } from "../../fit/line";
import { flat } from "../find";
import { at, definePathOperation, placeMm, sizeMm } from "../operation";
import { knotOf } from "../points";

const schema = z.strictObject({
  edit: z.literal("box"),
  at,
  xMm: placeMm,
  yMm: placeMm,
  widthMm: sizeMm,
  heightMm: sizeMm,
});

/** A shape moved and scaled so that its outline fills a box, its holes with it. */
export const box = definePathOperation(schema, {
  act(bench, edit) {
    const shape = bench.shapeAt(edit.at);
    if (shape.length === 0) return false;
    const from = flat(bench.paths[shape[0]]).box;
    return bench.changeAll(shape, (path) => inBox(path, from, edit));
  },
  turned(edit, by) {
    const { xMm, yMm, widthMm, heightMm } = edit;
    const [a, b] = [by.atMm([xMm, yMm]), by.atMm([xMm + widthMm, yMm + heightMm])];
    return {
      ...edit,
      at: by.at(edit.at),
      xMm: Math.min(a[0], b[0]),
      yMm: Math.min(a[1], b[1]),
      widthMm: by.across ? heightMm : widthMm,
      heightMm: by.across ? widthMm : heightMm,
    };
  },
});

function inBox(
  path: KnotPath,
  [left, top, right, bottom]: readonly [number, number, number, number],
  { xMm, yMm, widthMm, heightMm }: z.output<typeof schema>,
): KnotPath {
  const sx = right > left ? widthMm / (right - left) : 1;
  const sy = bottom > top ? heightMm / (bottom - top) : 1;
  const by = (p: Point): Point => [p[0] * sx, p[1] * sy];
  return {
    ...path,
    knots: path.knots.map(({ at: place, in: back, out }) =>
      knotOf([xMm + (place[0] - left) * sx, yMm + (place[1] - top) * sy], back && by(back), out && by(out)),
    ),
  };
}
