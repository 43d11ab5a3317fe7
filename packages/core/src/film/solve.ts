import { laidOn, type Layer, type Light } from "./model";

/** A layer whose amount is decided before the others are: by the colour alone. */
export type Given = (target: Light) => number;

export interface Wanted {
  readonly garment: Light;
  readonly layers: readonly Layer[];
  /** For a layer whose amount is not solved for. */
  readonly given?: readonly (Given | undefined)[];
  /** Most of all layers together; left out, as much as there is. */
  readonly total?: number;
}

// Thresholds: what they decide is measured by `npm run films`.

/** Of two ways to the same colour the one with less ink is taken; so much off in the square of light weighs a whole layer. */
const LEAST_INK = 4e-5;
/** Keeps the way from one colour to the next smooth where the colours of inks lie nearly in line. */
const EVEN = 1e-6;
/** Steps of one descent, and rounds over all inks. */
const STEPS = 14;
const ROUNDS = 40;
/** Steps for amounts that are nearly right. */
const MENDING_STEPS = 4;
/** Amounts that move by less than this rest: an eighth of a code. */
const RESTS = 5e-4;
/** A print this near, in the weighed square of light, needs no other beginning. */
const NEAR_ENOUGH = 2e-5;
/** Where else to begin. */
const BEGINNINGS = [0.5, 1];

/**
 * Amounts of inks, 0..1 each, whose print comes nearest to a colour: least squares over the printing model, weighed
 * as code values would be, within bounds. The model is a straight line in any one amount but not in all of them: so it is
 * made straight where the amounts are, that is solved by coordinate descent, and again from there; a step that does not
 * come nearer is shortened. Where the colour is not reached it is begun anew from elsewhere. Amounts that are given stay.
 * Begun at bare cloth, so that what shows nowhere is not printed.
 *
 * @param amounts  gets the result
 * @see `printedLight`
 * @see Levenberg, "A method for the solution of certain non-linear problems in least squares", Q. Appl. Math. 2, 1944
 * @see Wright, "Coordinate descent algorithms", Math. Program. 151, 2015
 */
export class AmountSolver {
  private readonly count: number;
  /** What the layers after each make of a light: times this, plus that, by channel. */
  private readonly after: Float64Array;
  /** By how much each layer moves each channel of the print, weighed. */
  private readonly moves: Float64Array;
  private readonly weight = new Float64Array(3);
  private readonly left = new Float64Array(3);
  private readonly next: Float64Array;
  private readonly best: Float64Array;
  private readonly begun: Float64Array;

  constructor(private readonly wanted: Wanted) {
    this.count = wanted.layers.length;
    this.after = new Float64Array(6 * (this.count + 1));
    this.moves = new Float64Array(3 * this.count);
    this.next = new Float64Array(this.count);
    this.best = new Float64Array(this.count);
    this.begun = new Float64Array(this.count);
  }

  solve(target: Light, amounts: Float64Array): void {
    const { given, total } = this.wanted;
    this.weigh(target);
    const fixed = this.wanted.layers.map((_, k) => given?.[k]?.(target));
    const put = (): void => fixed.forEach((a, k) => a !== undefined && (amounts[k] = a));
    amounts.fill(0);
    put();
    let least = this.from(target, amounts);
    for (const start of BEGINNINGS) {
      if (least <= NEAR_ENOUGH + LEAST_INK * this.count) break;
      this.best.set(amounts);
      amounts.fill(start);
      put();
      const cost = this.from(target, amounts);
      if (cost < least - 1e-9) least = cost;
      else amounts.set(this.best);
    }
    if (total !== undefined) this.limit(amounts, total);
  }

  /**
   * Brings amounts that were guessed to print the colour, from where they are: so amounts of colours that lie near each
   * other stay near each other.
   * @returns whether they printed another colour, and are changed
   */
  mend(target: Light, amounts: Float64Array): boolean {
    this.weigh(target);
    this.straighten(target, amounts);
    const [r, g, b] = this.left;
    if (r * r + g * g + b * b <= NEAR_ENOUGH) return false;
    this.from(target, amounts, MENDING_STEPS);
    return true;
  }

  private weigh(target: Light): void {
    // A step of light counts as much as it is seen: more in the dark.
    for (let c = 0; c < 3; c++) this.weight[c] = 1 / Math.sqrt(0.02 + target[c]);
  }

  /** Goes on from where the amounts are; returns what is left. */
  private from(target: Light, amounts: Float64Array, steps = STEPS): number {
    let damped = 1e-4;
    let cost = this.straighten(target, amounts);
    for (let step = 0; step < steps; step++) {
      this.next.set(amounts);
      const moved = this.descend(this.next, damped);
      if (moved < RESTS) break;
      const now = this.straighten(target, this.next);
      if (now < cost) {
        amounts.set(this.next);
        cost = now;
        damped = Math.max(1e-6, damped / 4);
      } else {
        damped *= 16;
        this.straighten(target, amounts);
      }
    }
    return cost;
  }

  /** Works out what is left to the target and how each amount would change it; returns the cost. */
  private straighten(target: Light, amounts: Float64Array): number {
    const { garment, layers } = this.wanted;
    const { count, after, moves, weight, left } = this;
    for (let c = 0; c < 3; c++) [after[6 * count + c], after[6 * count + 3 + c]] = [1, 0];
    for (let k = count - 1; k >= 0; k--) {
      const { light, opacity } = layers[k];
      for (let c = 0; c < 3; c++) {
        const times = after[6 * (k + 1) + c];
        after[6 * k + c] = times * (1 - amounts[k] + amounts[k] * light[c] * (1 - opacity));
        after[6 * k + 3 + c] = after[6 * (k + 1) + 3 + c] + times * amounts[k] * light[c] * opacity;
      }
    }
    let cost = 0;
    for (let c = 0; c < 3; c++) {
      let ground = garment[c];
      for (let k = 0; k < count; k++) {
        const by = laidOn(ground, layers[k].light[c], layers[k].opacity) - ground;
        moves[3 * k + c] = weight[c] * after[6 * (k + 1) + c] * by;
        ground += amounts[k] * by;
      }
      left[c] = weight[c] * (target[c] - ground);
      cost += left[c] * left[c];
    }
    for (let k = 0; k < count; k++) cost += LEAST_INK * amounts[k] + EVEN * amounts[k] * amounts[k];
    return cost;
  }

  /** The best amounts of the straightened model within bounds; returns the largest change. */
  private descend(amounts: Float64Array, damped: number): number {
    const { given } = this.wanted;
    const { count, moves, left } = this;
    const from = this.begun;
    from.set(amounts);
    let [r, g, b] = left;
    for (let round = 0; round < ROUNDS; round++) {
      let most = 0;
      for (let k = 0; k < count; k++) {
        if (given?.[k]) continue;
        const [mr, mg, mb] = [moves[3 * k], moves[3 * k + 1], moves[3 * k + 2]];
        const whole = mr * mr + mg * mg + mb * mb + EVEN + damped;
        const along =
          mr * r + mg * g + mb * b - LEAST_INK / 2 - EVEN * amounts[k] - damped * (amounts[k] - from[k]);
        const next = Math.min(1, Math.max(0, amounts[k] + along / whole));
        const by = next - amounts[k];
        if (by === 0) continue;
        amounts[k] = next;
        r -= by * mr;
        g -= by * mg;
        b -= by * mb;
        most = Math.max(most, Math.abs(by));
      }
      if (most < RESTS / 4) break;
    }
    let moved = 0;
    for (let k = 0; k < count; k++) moved = Math.max(moved, Math.abs(amounts[k] - from[k]));
    return moved;
  }

  /** Takes so much off every layer that is not given that the sum is kept. */
  private limit(amounts: Float64Array, total: number): void {
    const { given } = this.wanted;
    let [sum, fixed] = [0, 0];
    amounts.forEach((a, k) => (given?.[k] ? (fixed += a) : (sum += a)));
    if (sum + fixed <= total || sum === 0) return;
    const share = Math.max(0, total - fixed) / sum;
    amounts.forEach((a, k) => {
      if (!given?.[k]) amounts[k] = a * share;
    });
  }
}
