import { z } from "zod";
import { evenOdd, joined } from "../../polygon/inSlices";
import { keptCurves, traceable } from "../../polygon/keptCurves";
import { type Ring } from "../../polygon/rings";
import { severalPlaces, shapesAt } from "../chosen";
import { definePathOperation } from "../operation";

/** Shapes made one where they lie over one another, each as it is seen filled; where they do not they stay as they are. */
export const weld = definePathOperation(z.strictObject({ edit: z.literal("weld"), at: severalPlaces }), {
  *act(bench, edit) {
    const shapes = shapesAt(bench, edit.at).filter(([k]) => bench.paths[k].closed);
    if (shapes.length < 2) return false;
    const numbers = shapes.flat();
    const from = traceable(numbers.map((k) => bench.paths[k]));
    let at = 0;
    const areas: Ring[] = [];
    for (const shape of shapes) areas.push(...(yield* evenOdd(from.rings.slice(at, (at += shape.length)))));
    const made = yield* keptCurves(yield* joined(areas, []), from);
    const set = bench.set[numbers[0]];
    for (const k of numbers.sort((a, b) => b - a)) bench.replace(k, []);
    for (const path of made) bench.put(path, set);
    return true;
  },
  turned: (edit, by) => ({ ...edit, at: edit.at.map((place) => by.at(place)) }),
  presses: [{ words: "Weld", on: "paths", of: "all", make: (all) => ({ edit: "weld", at: all }) as const }],
});
