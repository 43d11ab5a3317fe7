import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { movedPoint } from "../points";

export const movePoint = definePathOperation(z.strictObject({ edit: z.literal("movePoint"), at, to: at }), {
  act: (bench, edit) =>
    bench.change(bench.knotAt(edit.at), (path, { knot }) => movedPoint(path, knot, bench.mm(edit.to))),
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at), to: by.at(edit.to) }),
});
