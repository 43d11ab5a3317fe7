import { strToU8 } from "fflate";
import { workSlice, type Work } from "../../../maths/work";
import { flattened } from "../../../path/flatten";
import { boxWith } from "../../../path/pathSet";
import { goneOn } from "../../../path/goneOn";
import { holderPath } from "../../blade";
import { movesOfHpgl } from "../../hpgl";
import { passName, runOrder, type Job } from "../../job";
import { reachable } from "../../profile";
import { checkReach } from "../../reach";
import { type KnifeCutter } from "./profile";
import { ordered } from "../../order";
import { plainText, ProgramText, type MachineProgram, type OnBed, type ProgramPass } from "../../program";
import { isWished, type RunWish } from "../../wish";

// Thresholds: what they decide is measured by `npm run runs`.

/** Curves become straight pieces that stay this near to them, in mm. */
const FLAT_MM = 0.002;
/** User units to a millimetre, by SC. */
export const UNITS = 1000;
/** Plotter units to a millimetre. */
const PLOTTER = 40;

/**
 * A job as HP-GL for a cutter whose blade trails behind its holder: the holder goes ahead of the line by the blade's offset,
 * swings round corners, and closed lines go on past their beginning. User units of a thousandth of a millimetre (IP, SC);
 * after every line the actual position is asked for (OA), whose answer says that all before it is done.
 *
 * @param lies  where the job lies on the bed, where its marks were read; by `wish.at` when left out
 * @throws MachineError where something lies outside of what the machine reaches
 * @see Hewlett-Packard, "The HP-GL/2 and HP RTL Reference Guide", 1997: IN, IP, SC, VS, SP, PU, PD, OA, CO
 */
export function* planKnife(
  job: Job,
  machine: KnifeCutter,
  wish: RunWish,
  lies?: OnBed,
): Work<MachineProgram> {
  const reach = reachable(machine);
  // The holder goes ahead of the line by the blade's offset, and must be reached too; lines may reach beyond the piece.
  const box = boxWith(runOrder(job.sets), job.widthMm, job.heightMm);
  const at = wish.at ?? [reach.x + machine.bladeOffsetMm - box.x, reach.y + machine.bladeOffsetMm - box.y];
  const onBed: OnBed = lies ?? ((x, y) => [at[0] + x, at[1] + y]);
  const sets = runOrder(job.sets).filter((s) => isWished(wish, passName(s)));
  const text = new ProgramText();
  const line = (words: string): void => text.line(words);
  line(`CO"${plainText(job.name)}";`);
  line(`IN;IP0,0,${PLOTTER},${PLOTTER};SC0,${UNITS},0,${UNITS};OA;`);
  const passes: ProgramPass[] = [];
  let here: readonly [number, number] = [0, 0];
  let facing = 0; // the blade lies along x when the machine is switched on
  for (const [k, set] of sets.entries()) {
    const name = passName(set);
    const first = text.lines + 1;
    const lines = flattened(set, FLAT_MM).map(({ points, closed }) => {
      const out = new Float64Array(points.length);
      for (let p = 0; p < points.length; p += 2) {
        const [x, y] = onBed(points[p], points[p + 1]);
        out[p] = x;
        out[p + 1] = machine.bed.heightMm - y;
      }
      return { points: out, closed };
    });
    const order = yield* workSlice(ordered(lines, here), k / sets.length, (k + 1) / sets.length);
    const mmPerS = set.pass ? Math.min(set.pass.speed, machine.cutMmPerS) : machine.cutMmPerS;
    line(`CO"pass ${plainText(name)}";SP${k + 1};VS${Math.round(mmPerS * 100) / 1000};OA;`);
    for (const { points, closed } of order.lines) {
      const gone = closed && machine.overcutMm > 0 ? goneOn(points, machine.overcutMm) : points;
      const held = holderPath(gone, machine.bladeOffsetMm, facing);
      facing = held.facing;
      const { places } = held;
      const units: string[] = [];
      for (let p = 0; p < places.length; p += 2) {
        const next = `${Math.round(places[p] * UNITS)},${Math.round(places[p + 1] * UNITS)}`;
        if (next !== units.at(-1)) units.push(next);
      }
      line(`PU${units[0]};PD${units.slice(1).join(",")};PU;OA;`);
      here = [points[points.length - 2], points[points.length - 1]];
    }
    const { givenMm, travelMm } = order;
    const use = set.use as ProgramPass["use"];
    passes.push({ name, use, lines: [first, text.lines], paths: order.lines.length, givenMm, travelMm });
  }
  line("PU0,0;SP0;OA;");
  const bytes = strToU8(text.text);
  const moves = yield* movesOfHpgl(bytes, machine);
  checkReach(moves.x, moves.y, machine);
  return { mediaType: "application/vnd.hp-hpgl", extension: "plt", bytes, passes, at, moves };
}
