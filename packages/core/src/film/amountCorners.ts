import { LINEAR_OF_CODE } from "../colour/srgb";
import { type Shareable } from "../hands/shareOut";
import { type Work } from "../maths/work";
import { givenAmount, type GivenAmount } from "./process";
import { type Layer, type Light } from "./model";
import { AmountSolver } from "./solve";

/** What amounts are solved for, in words and numbers. */
export interface AmountsWish {
  readonly garment: Light;
  readonly layers: readonly Layer[];
  readonly given?: readonly (GivenAmount | undefined)[];
  readonly total?: number;
}

export const solverOf = ({ given, ...wish }: AmountsWish): AmountSolver =>
  new AmountSolver({ ...wish, given: given?.map((g) => g && givenAmount(g)) });

/** Works out what a colour is turned into: `out` holds what a colour near it was turned into, and gets numbers 0..1. */
export type OfColour = (light: Light, out: Float64Array) => void;

/** Numbers in the table, times this, are 0..1. */
export const FULL = 255 * 256;
/** Corners solved between two slices, and in one part of all that are to be. */
const SOLVED_AT_ONCE = 96;
export const CORNERS_A_PART = 384;

/** Corners of a grid in the cube of colours that are to be worked out. */
export interface Corners {
  /** Code values of the grid along red, green and blue. */
  readonly axes: readonly (readonly number[])[];
  readonly outputs: number;
  /** Numbers of the corners, blue fastest. */
  readonly nodes: Int32Array;
  /** Gets `outputs` numbers a corner, 0..FULL. */
  readonly values: Uint16Array;
  /** Gets 1 for each corner that is worked out. */
  readonly done: Uint8Array;
}

export function* solveCorners(
  { axes: [red, green, blue], outputs, nodes, values, done }: Corners,
  ofColour: OfColour,
  from: number,
  to: number,
): Work<void> {
  const numbers = new Float64Array(outputs);
  const [rs, gs] = [green.length * blue.length, blue.length];
  for (let n = from; n < to; n++) {
    if ((n - from) % SOLVED_AT_ONCE === 0) yield (n - from) / (to - from);
    const node = nodes[n];
    const light: Light = [
      LINEAR_OF_CODE[red[Math.floor(node / rs)]],
      LINEAR_OF_CODE[green[Math.floor((node % rs) / gs)]],
      LINEAR_OF_CODE[blue[node % gs]],
    ];
    ofColour(light, numbers);
    for (let k = 0; k < outputs; k++) values[node * outputs + k] = Math.round(numbers[k] * FULL);
    done[node] = 1;
  }
}

/** Amounts of inks at corners, some hundred a part: each corner by itself. */
export const amountCorners: Shareable<Corners & { readonly wish: AmountsWish }> = {
  name: "amounts at corners",
  begin: (given) => {
    const solver = solverOf(given.wish);
    const { length } = given.nodes;
    return (part) =>
      solveCorners(
        given,
        (light, out) => solver.solve(light, out),
        part * CORNERS_A_PART,
        Math.min(length, (part + 1) * CORNERS_A_PART),
      );
  },
};
