import { z } from "zod";
import { at, byMm, definePathOperation } from "../operation";
import { movedHandle } from "../points";

const OTHER = { in: "out", out: "in" } as const;

export const moveHandle = definePathOperation(
  z.strictObject({ edit: z.literal("moveHandle"), at, side: z.enum(["in", "out"]), byMm }),
  {
    act: (bench, edit) =>
      bench.change(bench.knotAt(edit.at), (path, { knot }) => movedHandle(path, knot, edit.side, edit.byMm)),
    // A mirrored picture is traced the same way round as seen, so that its paths come to a point from the other side.
    turned: (edit, by) => ({
      ...edit,
      at: by.at(edit.at),
      side: by.mirrors ? OTHER[edit.side] : edit.side,
      byMm: by.offset(edit.byMm),
    }),
  },
);
