import { checkEdge } from "../../inspect/edgeRim";
import { checkLeftovers } from "../../inspect/leftovers";
import { figure } from "../../inspect/check";
import { WHOLE_FRAME, type Clearing } from "../../clear/clearing";
import { moveEdge, tidy } from "../../clear/edge";
import { unmixFringe } from "../../clear/fringe";
import { portion } from "../../maths/work";
import { MM_PER_INCH, type Art, type Cleared } from "../../route/art";
import { defineStage } from "../stage";
import { coverOfHolds, runOp } from "./ops";
import { clearSettings, type ClearSettings } from "./settings";
import { opWords } from "./words";

/** Takes the background away, in the order that the operator decided, and cleans the edge that is left. */
export const clear = defineStage<ClearSettings>({
  id: "clear",
  title: "Clear",
  settings: clearSettings,
  *run(art, settings) {
    const { ops } = settings;
    const clearing = clearingOf(art, settings);
    const cleared: Cleared = { background: [], gaps: [] };
    for (const [k, op] of ops.entries())
      yield* portion(
        runOp(clearing, op, k, settings, cleared),
        (0.7 * k) / ops.length,
        (0.7 * (k + 1)) / ops.length,
      );
    const unmix = settings.fringe === "unmix";
    if (unmix && ops.some((o) => o.op === "pick" || o.op === "gaps"))
      yield* portion(unmixFringe(clearing), 0.7, 0.85);
    const perMm = clearing.dotsPerMm;
    const area = (mm2: number): number => mm2 * perMm * perMm;
    if (settings.specksMm2 > 0 || settings.pinholesMm2 > 0)
      yield* portion(tidy(clearing, area(settings.specksMm2), area(settings.pinholesMm2)), 0.85, 0.9);
    if (settings.edgeMm !== 0 || settings.featherMm > 0)
      yield* portion(moveEdge(clearing, settings.edgeMm * perMm, settings.featherMm * perMm, unmix), 0.9, 1);
    const { width, height } = art.colour;
    return { ...art, colour: { width, height, data: clearing.data }, cleared };
  },

  *inspect(art, { ops }, limits) {
    const known = ops.some((o) => o.op !== "hold");
    const edge = yield* portion(checkEdge(art, known), 0, 0.4);
    const left = yield* portion(checkLeftovers(art, limits), 0.4, 1);
    return { readings: left.readings, checks: [edge, left.islands, left.tint] };
  },

  summary: ({ ops, edgeMm, featherMm }) => {
    if (ops.length === 0) return "nothing taken away yet";
    const said = ops.map(opWords);
    const shown = said.slice(0, 2).join(", ");
    const more = said.length > 2 ? `, ${said.length - 2} more` : "";
    const edge = edgeMm !== 0 ? `, edge ${edgeMm > 0 ? "+" : "−"}${figure(Math.abs(edgeMm), 2)} mm` : "";
    const soft = featherMm > 0 ? `, feather ${figure(featherMm, 2)} mm` : "";
    return shown + more + edge + soft;
  },
});

/** The picture as Clear takes it up: nothing gone yet, and what is held known from the start. */
export function clearingOf({ colour, finish, frame }: Art, { ops }: ClearSettings): Clearing {
  const before = {
    source: colour,
    data: colour.data.slice(),
    taken: new Uint8Array(colour.width * colour.height),
    frame: frame ?? WHOLE_FRAME,
    dotsPerMm: (finish?.dotsPerInch ?? 254) / MM_PER_INCH,
  };
  return { ...before, held: coverOfHolds(before, ops) };
}
