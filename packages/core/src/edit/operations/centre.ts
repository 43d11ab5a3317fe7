import { z } from "zod";
import { workSlice } from "../../maths/work";
import { coverOfRings } from "../../path/cover";
import { scaledPath } from "../../path/scaled";
import { affinePath, shift } from "../../path/affine";
import { evenOdd } from "../../polygon/inSlices";
import { traceable } from "../../polygon/keptCurves";
import { newGray } from "../../raster/types";
import { centreLines } from "../../trace/centre/centre";
import { strokesIn } from "../../trace/centre/strokes";
import { boxOf } from "../chosen";
import { at, definePathOperation } from "../operation";

/** A shape is drawn with so many pixels across its widest stroke, and at most so many in all. */
const [PIXELS_ACROSS, MOST_PIXELS] = [12, 4e6];
const ROOM = 4;
/** How near lines follow the middle, in pixels of the drawing. */
const FITTING = { tolerance: 0.5, corners: 0.5 };

/** Lines along the middle of a shape's strokes, in its place; what is wider than `widthMm` is no stroke and goes. */
export const centre = definePathOperation(
  z.strictObject({ edit: z.literal("centre"), at, widthMm: z.number().min(0.05).max(50) }),
  {
    *act(bench, edit) {
      const shape = bench.shapeAt(edit.at);
      if (shape.length === 0 || !bench.paths[shape[0]].closed) return false;
      const box = boxOf(bench, shape);
      const wished = PIXELS_ACROSS / edit.widthMm;
      const perMm = Math.min(wished, Math.sqrt(MOST_PIXELS / (box.width * box.height)));
      const [width, height] = [box.width, box.height].map((mm) => Math.ceil(mm * perMm) + 2 * ROOM);
      const area = yield* evenOdd(traceable(shape.map((k) => bench.paths[k])).rings);
      const rings = area.map((ring) => ring.map((v, k) => (v - (k % 2 ? box.y : box.x)) * perMm + ROOM));
      const cover = yield* workSlice(coverOfRings(rings, width, height), 0, 0.3);
      const gray = newGray(width, height);
      for (let k = 0; k < cover.length; k++) gray.data[k] = 255 - cover[k];
      const { fine, times, mask } = yield* workSlice(
        strokesIn(gray, 128, edit.widthMm * perMm * WIDER),
        0.3,
        0.6,
      );
      const lines = yield* workSlice(
        centreLines(fine, 128, mask, times, FITTING, edit.widthMm * perMm * WIDER),
        0.6,
        1,
      );
      if (lines.length === 0) return false;
      for (const k of [...shape].sort((a, b) => b - a)) bench.replace(k, []);
      for (const { knots, closed } of lines) {
        const inMm = scaledPath(affinePath({ knots, closed }, shift(-ROOM, -ROOM)), 1 / perMm);
        bench.drawLine(affinePath(inMm, shift(box.x, box.y)));
      }
      return true;
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  },
);

/** A stroke of the very width that is said is one. */
const WIDER = 1.1;
