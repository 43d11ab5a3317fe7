/** What may go wrong with a stand-in, set from the shop floor. Lines are those of the program, counted from 1. */
export interface Faults {
  /** How many times faster than a real machine it runs; 0 for as fast as it can. */
  pace: number;
  /** Once, when this line is done, the connection breaks. */
  loseLineAt: number | null;
  /** Once, when this line is done, the material jams. */
  jamAt: number | null;
  /** Says no to whoever calls, and why. */
  refuse: string | null;
  /** Switched off: nobody answers. */
  off: boolean;
}

export const NO_FAULTS: Faults = { pace: 1, loseLineAt: null, jamAt: null, refuse: null, off: false };
