import { z } from "zod";

const line = z.int().min(0).max(1e9).nullable();

/** What may go wrong with a stand-in, set from the shop floor. Lines are those of the program, counted from 1. */
export const faultsSchema = z.strictObject({
  /** How many times faster than a real machine it runs; 0 for as fast as it can. */
  pace: z.number().min(0).max(1e6),
  /** Once, when this line is done, the connection breaks. */
  loseLineAt: line,
  /** Once, when this line is done, the material jams. */
  jamAt: line,
  /** Says no to whoever calls, and why. */
  refuse: z.string().max(200).nullable(),
  /** Switched off: nobody answers. */
  off: z.boolean(),
  /** Leaves the beam as it is in G0, as some controllers do. */
  beamInTravel: z.boolean(),
  /** Pays no heed to pause and stop. */
  deaf: z.boolean(),
  /** Greets whoever calls only after so long. */
  greetAfterMs: z.number().min(0).max(600000),
});
export type Faults = z.output<typeof faultsSchema>;

export const NO_FAULTS: Faults = {
  ...{ pace: 1, loseLineAt: null, jamAt: null, refuse: null, off: false },
  ...{ beamInTravel: false, deaf: false, greetAfterMs: 0 },
};
