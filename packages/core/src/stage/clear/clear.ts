import { type Clearing } from "../../clear/clearing";
import { bledUnder } from "../../clear/bleed";
import { moveEdge, tidy } from "../../clear/edge";
import { estimateForeground } from "../../clear/foreground";
import { figure } from "../../inspect/check";
import { copied } from "../../maths/copy";
import { workSlice, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { type Picture } from "../../result/result";
import { inspectBy } from "../checks";
import { defineStage } from "../stage";
import { CLEAR_CHECKS } from "./checks";
import { coverOfHolds, runOp, decidedByHand } from "./ops";
import { doneActs, type Act } from "./progress";
import { clearSettings, type ClearOp, type ClearSettings } from "./settings";
import { clearTurnedOn } from "./turnedOn";
import { opWords } from "./words";

/** Takes the background away, in the order that the operator decided, and cleans the edge that is left. */
export const clear = defineStage({
  id: "clear",
  title: "Clear",
  settings: clearSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  turnedOn: clearTurnedOn,
  *run({ picture }, settings: ClearSettings, { keep }): Work<Picture> {
    const { ops, fringe } = settings;
    const clearing = yield* workSlice(clearingOf(picture, settings), 0, 0.05);
    const begun = { fringe, held: ops.filter((o) => o.op === "hold") };
    const own = ops.map((op, k) => operation(op, k, settings));
    const isLate = lateAmong(ops);
    const acts = [
      ...own.filter((_, k) => !isLate(k)),
      ...edgeFreed(settings),
      ...own.filter((_, k) => isLate(k)).map((act) => ({ ...act, until: FREED })),
      ...edgeWork(settings, clearing.dotsPerMm),
    ];
    const last = ops.filter((_, k) => !isLate(k)).length - 1;
    const cleared = yield* workSlice(doneActs(clearing, acts, begun, last, keep), 0.05, 1);
    const { width, height } = picture.colour;
    const { finish, frame } = picture;
    return { kind: "picture", finish, frame, colour: { width, height, data: clearing.data }, cleared };
  },

  looksBack: true,
  *inspect(picture, { picture: before }, { ops }, limits) {
    const meant = yield* workSlice(decidedByHand(before, picture.cleared?.through ?? [], ops), 0, 0.1);
    const taken = ops.some((o) => o.op !== "hold");
    return yield* workSlice(inspectBy(CLEAR_CHECKS, { picture, before, meant, limits, taken, ops }), 0.1, 1);
  },
  readings: {
    keptPercent: { label: "Art", unit: "%", decimals: 1 },
    clearPercent: { label: "Clear", display: "none" },
  },

  delivers: "cleared art",
  async *files({ colour, finish }, _settings, doing) {
    const clean = await doing(bledUnder(colour));
    const { writeRgbaPng } = await import("../../format/png");
    const bytes = await doing(writeRgbaPng(clean, finish.dotsPerInch));
    yield { name: "cleared.png", mediaType: "image/png", bytes };
  },

  limits: ["strayMm2"],
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
export function* clearingOf(
  { colour, finish, frame }: Picture,
  { ops }: Pick<ClearSettings, "ops">,
): Work<Clearing> {
  const before = {
    source: colour,
    data: yield* copied(colour.data),
    taken: new Uint8Array(colour.width * colour.height),
    frame,
    dotsPerMm: dotsPerMm(finish),
  };
  return { ...before, held: yield* coverOfHolds(before, ops) };
}

/** Share of the work that the operations are; and when edges are freed of the background, and what it is seen through too. */
const [OPERATIONS, EDGES, FREED] = [0.7, 0.84, 0.87];

/**
 * Which operations are done once edges are freed: those on what the ground is seen through, in which an edge would be found,
 * and what a hand does after them.
 */
function lateAmong(ops: readonly ClearOp[]): (index: number) => boolean {
  const first = ops.findIndex((o) => o.op === "through");
  return (k) => first >= 0 && k >= first && ["through", "brush", "path"].includes(ops[k].op);
}

function operation(op: ClearOp, index: number, settings: ClearSettings): Act {
  const { ops } = settings;
  return {
    // Gaps go by a pick's place, which stands elsewhere among the operations.
    of: op.op === "gaps" ? { ...op, at: ops.filter((o) => o.op === "pick")[op.like].at } : op,
    colours: ["lift", "cutOut", "back", "through"].includes(op.op),
    act: (clearing, learned) => runOp(clearing, op, index, settings, learned),
    until: (OPERATIONS * (index + 1)) / ops.length,
  };
}

/** The edge of what was picked, freed of the background. */
function edgeFreed({ ops, fringe }: ClearSettings): Act[] {
  const unmix = fringe === "unmix";
  if (!unmix || !ops.some((o) => o.op === "pick" || o.op === "gaps")) return [];
  return [{ of: { unmix }, colours: true, act: estimateForeground, until: EDGES }];
}

/** What is done to the edge once all operations are. */
function edgeWork(settings: ClearSettings, perMm: number): Act[] {
  const { fringe, specksMm2, pinholesMm2, edgeMm, featherMm } = settings;
  const acts: Act[] = [];
  const unmix = fringe === "unmix";
  const area = (mm2: number): number => mm2 * perMm * perMm;
  if (specksMm2 > 0 || pinholesMm2 > 0)
    acts.push({
      of: { specksMm2, pinholesMm2 },
      colours: false,
      act: (clearing) => tidy(clearing, area(specksMm2), area(pinholesMm2)),
      until: 0.9,
    });
  if (edgeMm !== 0 || featherMm > 0)
    acts.push({
      of: { edgeMm, featherMm },
      colours: edgeMm > 0,
      act: (clearing) => moveEdge(clearing, edgeMm * perMm, featherMm * perMm, unmix),
      until: 1,
    });
  return acts;
}
