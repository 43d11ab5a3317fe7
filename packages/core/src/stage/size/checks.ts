import { checkMachineResolution, checkResolution, sourcePerInch } from "../../inspect/resolution";
import { type Finish } from "../../result/finish";
import { type ArtworkFacts } from "../../route/source";
import { atOnce, type StageCheck } from "../checks";

interface About {
  readonly facts: ArtworkFacts;
  readonly finish: Finish;
  /** Dots per inch of the machine, where the route says it. */
  readonly machine: number | null;
}

/** Everything that is looked at in a size. */
export const SIZE_CHECKS: readonly StageCheck<About>[] = [
  atOnce(({ facts, finish }) => ({
    readings: { sourcePerInch: Math.round(sourcePerInch(facts, finish) * 10) / 10 },
    checks: [checkResolution(facts, finish)],
  })),
  {
    applies: ({ machine }) => machine !== null,
    ...atOnce(({ finish, machine }) => ({ checks: [checkMachineResolution(finish, machine!)] })),
  },
];
