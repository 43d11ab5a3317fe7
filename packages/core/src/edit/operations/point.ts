import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { pointAs } from "../points";

/** A point made a corner, or smooth. */
export const point = definePathOperation(
  z.strictObject({ edit: z.literal("point"), at, as: z.enum(["corner", "smooth"]) }),
  {
    act: (bench, edit) =>
      bench.change(bench.knotAt(edit.at), (path, { knot }) => pointAs(path, knot, edit.as)),
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
    presses: [
      {
        words: "Corner",
        on: "points",
        of: "each",
        keeps: true,
        make: ([p]) => ({ edit: "point", at: p, as: "corner" }) as const,
      },
      {
        words: "Smooth",
        on: "points",
        of: "each",
        keeps: true,
        make: ([p]) => ({ edit: "point", at: p, as: "smooth" }) as const,
      },
    ],
  },
);
