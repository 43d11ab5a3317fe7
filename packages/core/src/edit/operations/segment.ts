import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { segmentAs } from "../points";

/** A segment made a straight line, or a curve that can be bent. */
export const segment = definePathOperation(
  z.strictObject({ edit: z.literal("segment"), at, as: z.enum(["straight", "curved"]) }),
  {
    act: (bench, edit) =>
      bench.change(bench.pathAt(edit.at), (path, found) => segmentAs(path, found.segment, edit.as)),
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
    presses: [
      {
        words: "Straight between",
        on: "points",
        of: 2,
        keeps: true,
        make: ([p]) => ({ edit: "segment", at: p, as: "straight" }) as const,
      },
    ],
  },
);
