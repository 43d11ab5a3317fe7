import { z } from "zod";
import { affinePath, after, scaleAbout, shift, turnAbout, type Affine } from "../../path/affine";
import { places, shapesAt } from "../chosen";
import { at, byMm, definePathOperation } from "../operation";

const scale = z
  .number()
  .min(-1000)
  .max(1000)
  .refine((v) => Math.abs(v) >= 0.001, "0.001 to 1000, or below 0 to mirror")
  .default(1);

/**
 * Shapes scaled, then turned, about a place, then moved; once, or as copies that each go one step further than the last, and
 * rows of those.
 */
export const transform = definePathOperation(
  z.strictObject({
    edit: z.literal("transform"),
    at: places,
    about: at,
    /** Below 0 mirrors. */
    across: scale,
    down: scale,
    turnDegrees: z.number().min(-360).max(360).default(0),
    byMm: byMm.default([0, 0]),
    /** 0: the shapes themselves change. */
    copies: z.int().min(0).max(500).default(0),
    rows: z.int().min(0).max(500).default(0),
    rowByMm: byMm.default([0, 0]),
  }),
  {
    act(bench, edit) {
      const shape = shapesAt(bench, edit.at).flat();
      if (shape.length === 0) return false;
      const about = bench.mm(edit.about);
      const turned = after(turnAbout(edit.turnDegrees, about), scaleAbout(edit.across, edit.down, about));
      const step = after(shift(...edit.byMm), turned);
      if (edit.copies === 0 && edit.rows === 0)
        return bench.changeAll(shape, (path) => affinePath(path, step));
      const own = shape.map((k) => ({ path: bench.paths[k], set: bench.set[k] }));
      if (own.length * (edit.copies + 1) * (edit.rows + 1) > MOST_COPIES) return false;
      for (let row = 0; row <= edit.rows; row++) {
        let by: Affine = shift(row * edit.rowByMm[0], row * edit.rowByMm[1]);
        for (let copy = 0; copy <= edit.copies; copy++) {
          if (row + copy > 0) for (const { path, set } of own) bench.put(affinePath(path, by), set);
          by = after(by, step);
        }
      }
      return true;
    },
    turned: (edit, by) => ({
      ...edit,
      at: edit.at.map((place) => by.at(place)),
      about: by.at(edit.about),
      ...(by.across ? { across: edit.down, down: edit.across } : {}),
      turnDegrees: by.mirrors ? -edit.turnDegrees + 0 : edit.turnDegrees,
      byMm: by.offset(edit.byMm),
      rowByMm: by.offset(edit.rowByMm),
    }),
  },
);

/** Outlines that copies may come to. */
const MOST_COPIES = 20000;
