import { type Ink } from "../../film/ink";
import { workSlice, type Work } from "../../maths/work";
import { type Plate } from "../../result/result";
import { type Finish } from "../../result/finish";
import { figure, firstOf, grouped, MOST_PLACES, type Check, type Place } from "../check";
import { checkSmall } from "../smallMarks";

/** A mesh holds a dot that is as wide as a thread and an opening together. */
export const finestDotMm = (meshPerCm: number): number => 10 / meshPerCm;

/**
 * Dots that are finer than the mesh of their ink holds. Where no mesh is named, than the process does.
 * @param dotMm  what the process holds
 */
export function* checkFineDots(
  plates: readonly Plate[],
  inks: readonly Ink[],
  finish: Finish,
  dotMm: number,
): Work<Check> {
  const found: {
    readonly name: string;
    readonly count: number;
    readonly mm: number;
    readonly places: readonly Place[];
  }[] = [];
  for (const [k, { name, bits }] of plates.entries()) {
    const { meshPerCm } = inks[k];
    const mm = meshPerCm === undefined ? dotMm : finestDotMm(meshPerCm);
    const check = yield* workSlice(
      checkSmall("mark", { bits, cover: null }, finish, mm),
      k / plates.length,
      (k + 1) / plates.length,
    );
    if (check.value > 0) found.push({ name, count: check.value, mm, places: check.places });
  }
  const all = found.reduce((sum, f) => sum + f.count, 0);
  return {
    id: "fineDots",
    level: all > 0 ? "look" : "fine",
    value: all,
    unit: "dots",
    text: all > 0 ? `${grouped(all)} dots finer than the mesh holds` : "Meshes hold every dot",
    detail:
      all > 0
        ? `${found.map((f) => `${grouped(f.count)} on ${f.name}, under ${figure(f.mm, 3)} mm`).join("; ")}. They may not print.`
        : "None is finer than a thread and an opening.",
    places: firstOf(found, found.length, (a, b) => b.count - a.count)
      .flatMap((f) => f.places)
      .slice(0, MOST_PLACES),
  };
}
