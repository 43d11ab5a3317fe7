/**
 * Error diffusion weights: what share of a pixel's error goes where. All published kernels used here are the
 * same to the left and to the right below, so a row is given by its middle, its first and its second
 * neighbour. Shares are in units of 1 / divisor.
 */
export interface Kernel {
  readonly divisor: number;
  /** To the next pixel of the row, and to the one after. */
  readonly ahead: readonly [number, number];
  /** One row down: straight below, one aside (behind, ahead), two aside. */
  readonly below: readonly [behind2: number, behind1: number, middle: number, ahead1: number, ahead2: number];
  readonly below2: readonly [
    behind2: number,
    behind1: number,
    middle: number,
    ahead1: number,
    ahead2: number,
  ];
}

const NONE = [0, 0, 0, 0, 0] as const;

/**
 * @see Floyd & Steinberg, "An Adaptive Algorithm for Spatial Grey Scale", 1976
 * @see Jarvis, Judice & Ninke, "A Survey of Techniques for the Display of Continuous Tone Pictures on Bilevel
 *      Displays", 1976
 * @see Stucki, "MECCA: a multiple-error correction computation algorithm", IBM RZ 1060, 1981
 * @see Burkes, "Presentation of the Burkes error filter", 1988
 * @see Ulichney, "Digital Halftoning", 1987, for the family; the three Sierra filters as circulated 1989-1990
 * @see Atkinson's weights as published with his early scanner software: six eighths are passed on, a quarter
 *      of every error is let go
 */
export const KERNELS = {
  "floyd-steinberg": { divisor: 16, ahead: [7, 0], below: [0, 3, 5, 1, 0], below2: NONE },
  "jarvis-judice-ninke": { divisor: 48, ahead: [7, 5], below: [3, 5, 7, 5, 3], below2: [1, 3, 5, 3, 1] },
  stucki: { divisor: 42, ahead: [8, 4], below: [2, 4, 8, 4, 2], below2: [1, 2, 4, 2, 1] },
  burkes: { divisor: 32, ahead: [8, 4], below: [2, 4, 8, 4, 2], below2: NONE },
  sierra: { divisor: 32, ahead: [5, 3], below: [2, 4, 5, 4, 2], below2: [0, 2, 3, 2, 0] },
  "sierra-two-row": { divisor: 16, ahead: [4, 3], below: [1, 2, 3, 2, 1], below2: NONE },
  "sierra-lite": { divisor: 4, ahead: [2, 0], below: [0, 1, 1, 0, 0], below2: NONE },
  atkinson: { divisor: 8, ahead: [1, 1], below: [0, 1, 1, 1, 0], below2: [0, 0, 1, 0, 0] },
} as const satisfies Record<string, Kernel>;

export type KernelName = keyof typeof KERNELS;
export const KERNEL_NAMES = Object.keys(KERNELS) as KernelName[];
