import { z } from "zod";
import { affinePath, shift } from "../../path/affine";
import { type Rect } from "../../raster/types";
import { type FurtherTurn } from "../../turn/further";
import { boxOf, places, shapesAt } from "../chosen";
import { definePathOperation, type Press } from "../operation";

const SIDES = ["left", "right", "top", "foot", "middle", "centre"] as const;
type Side = (typeof SIDES)[number];

const press = (words: string, side: Side) =>
  ({
    words,
    on: "paths",
    of: "all",
    least: 1,
    group: "Align",
    keeps: true,
    make: (all) => ({ edit: "align", at: all, side, to: all.length === 1 ? "piece" : "chosen" }) as const,
  }) satisfies Press;

/**
 * Shapes moved so that their boxes lie along one line: their left, right, top or foot; `middle`: their middles one below the
 * other, `centre`: one beside the other. Along all of them, or, of a single one or where it is said, along the piece.
 */
export const align = definePathOperation(
  z.strictObject({
    edit: z.literal("align"),
    at: places,
    side: z.enum(SIDES),
    to: z.enum(["chosen", "piece"]).default("chosen"),
  }),
  {
    act(bench, edit) {
      const shapes = shapesAt(bench, edit.at);
      if (shapes.length === 0) return false;
      const { widthMm: width, heightMm: height } = bench.finish;
      const whole = edit.to === "piece" ? { x: 0, y: 0, width, height } : boxOf(bench, shapes.flat());
      for (const shape of shapes) {
        const [dx, dy] = wayTo(edit.side, boxOf(bench, shape), whole);
        bench.changeAll(shape, (path) => affinePath(path, shift(dx, dy)));
      }
      return true;
    },
    turned: (edit, by) => ({
      ...edit,
      at: edit.at.map((place) => by.at(place)),
      side: turnedSide(edit.side, by),
    }),
    presses: [
      press("Left", "left"),
      press("Middle", "middle"),
      press("Right", "right"),
      press("Top", "top"),
      press("Centre", "centre"),
      press("Foot", "foot"),
    ],
  },
);

function wayTo(side: Side, box: Rect, whole: Rect): [number, number] {
  switch (side) {
    case "left":
      return [whole.x - box.x, 0];
    case "right":
      return [whole.x + whole.width - box.x - box.width, 0];
    case "top":
      return [0, whole.y - box.y];
    case "foot":
      return [0, whole.y + whole.height - box.y - box.height];
    case "middle":
      return [whole.x + whole.width / 2 - box.x - box.width / 2, 0];
    case "centre":
      return [0, whole.y + whole.height / 2 - box.y - box.height / 2];
  }
}

const WAYS = { left: [-1, 0], right: [1, 0], top: [0, -1], foot: [0, 1] } as const;

function turnedSide(side: Side, by: FurtherTurn): Side {
  if (side === "middle" || side === "centre")
    return by.across ? (side === "middle" ? "centre" : "middle") : side;
  const [x, y] = by.offset(WAYS[side]);
  if (Math.abs(x) > Math.abs(y)) return x < 0 ? "left" : "right";
  return y < 0 ? "top" : "foot";
}
