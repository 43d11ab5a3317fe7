import { z } from "zod";
import { affinePath, shift } from "../../path/affine";
import { boxOf, shapesAt } from "../chosen";
import { at, definePathOperation, type Press } from "../operation";

type Way = "across" | "down";
type By = "gaps" | "middles";

const press = (words: string, way: Way, by: By) =>
  ({
    words,
    on: "paths",
    of: "all",
    least: 3,
    group: "Space",
    keeps: true,
    make: (all) => ({ edit: "distribute", at: all, way, by }) as const,
  }) satisfies Press;

/** Shapes moved so that the gaps between them, or the ways between their middles, are equal; the outermost two stay. */
export const distribute = definePathOperation(
  z.strictObject({
    edit: z.literal("distribute"),
    at: z.array(at).min(3).max(500).readonly(),
    way: z.enum(["across", "down"]),
    by: z.enum(["gaps", "middles"]).default("gaps"),
  }),
  {
    act(bench, { at: all, way, by }) {
      const axis = way === "across" ? (["x", "width"] as const) : (["y", "height"] as const);
      const shapes = shapesAt(bench, all)
        .map((shape) => {
          const box = boxOf(bench, shape);
          return { shape, from: box[axis[0]], size: box[axis[1]] };
        })
        .sort((a, b) => a.from + a.size / 2 - b.from - b.size / 2);
      if (shapes.length < 3) return false;
      const [first, last] = [shapes[0], shapes[shapes.length - 1]];
      const between = shapes.length - 1;
      const room = last.from + last.size - first.from - shapes.reduce((sum, s) => sum + s.size, 0);
      const middles = (last.from + last.size / 2 - first.from - first.size / 2) / between;
      let edge = first.from;
      shapes.forEach(({ shape, from, size }, k) => {
        const to = by === "gaps" ? edge : first.from + first.size / 2 + k * middles - size / 2;
        edge += size + room / between;
        const step = way === "across" ? shift(to - from, 0) : shift(0, to - from);
        bench.changeAll(shape, (path) => affinePath(path, step));
      });
      return true;
    },
    turned: (edit, by) => ({
      ...edit,
      at: edit.at.map((place) => by.at(place)),
      way: by.across ? (edit.way === "across" ? "down" : "across") : edit.way,
    }),
    presses: [
      press("Gaps across", "across", "gaps"),
      press("Gaps down", "down", "gaps"),
      press("Middles across", "across", "middles"),
      press("Middles down", "down", "middles"),
    ],
  },
);
