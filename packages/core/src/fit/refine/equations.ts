import { type Knot } from "../../path/outline";
import { span, type Point } from "../line";
import { type Cover, type Outline } from "./cover";
import { type Passages } from "./passages";
import { cosineAt } from "./piece";

/** Handles that lie on one line but for some ten degrees go on doing so. */
const SMOOTH = 0.985;
/** What holds back moves that change no pixel, as a share of what the others weigh, and of everything. */
const [DAMPING, HELD] = [1e-3, 1e-6];

/** Which of the unknowns are a knot's: two for its place, one each for a handle's turn and length; -1 where there are none. */
export interface Unknowns {
  readonly place: number;
  readonly outTurn: number;
  readonly outLength: number;
  readonly inTurn: number;
  readonly inLength: number;
}
const HELD_STILL: Unknowns = { place: -1, outTurn: -1, outLength: -1, inTurn: -1, inLength: -1 };

/** The unknowns of each knot that is free, numbered from one outline to the next. */
export class Numbered {
  count = 0;

  of(knots: Outline, isFree: (knot: number) => boolean): Unknowns[] {
    return knots.map((knot, k) => (isFree(k) ? this.ofKnot(knot) : HELD_STILL));
  }

  private ofKnot(knot: Knot): Unknowns {
    const [out, back] = [knot.out, knot.in].map((handle) => handle !== undefined && span(...handle) > 1e-6);
    const place = this.next(2);
    const outTurn = out ? this.next(1) : -1;
    const isSmooth = out && back && cosineAt(knot, knot, knot) > SMOOTH;
    const inTurn = isSmooth ? outTurn : back ? this.next(1) : -1;
    return { place, outTurn, outLength: out ? this.next(1) : -1, inTurn, inLength: back ? this.next(1) : -1 };
  }

  private next(many: number): number {
    this.count += many;
    return this.count - many;
  }
}

const NONE: Point = [0, 0];

/** For each passage, how the cover of its cell changes with each of eight unknowns; and the sums that least squares need. */
export class Equations {
  /** What each unknown weighs, and what is missing in its favour. */
  readonly weight: Float64Array;
  readonly wanted: Float64Array;
  /** Numbers of unknowns, eight for each passage; `count` stands for none. */
  private readonly which: Int32Array;
  private readonly by: Float32Array;

  constructor(
    private readonly passages: Passages,
    private readonly cover: Cover,
    readonly count: number,
  ) {
    this.which = new Int32Array(8 * passages.cell.length);
    this.by = new Float32Array(8 * passages.cell.length);
    this.weight = new Float64Array(count + 1);
    this.wanted = new Float64Array(count + 1);
  }

  /** Puts in the passages of one outline. */
  add(outline: number, knots: Outline, unknowns: readonly Unknowns[]): void {
    const { starts, knot, moves } = this.passages;
    const { which, by, count } = this;
    const known = (number: number): number => (number < 0 ? count : number);
    for (let p = starts[outline]; p < starts[outline + 1]; p++) {
      const k = knot[p];
      const next = k + 1 === knots.length ? 0 : k + 1;
      const a = unknowns[k];
      const b = unknowns[next];
      const out = knots[k].out ?? NONE;
      const back = knots[next].in ?? NONE;
      const j = 8 * p;
      which[j] = known(a.place);
      which[j + 1] = a.place < 0 ? count : a.place + 1;
      which[j + 2] = known(a.outTurn);
      which[j + 3] = known(a.outLength);
      which[j + 4] = known(b.inTurn);
      which[j + 5] = known(b.inLength);
      which[j + 6] = known(b.place);
      which[j + 7] = b.place < 0 ? count : b.place + 1;
      by[j] = moves[j] + moves[j + 2];
      by[j + 1] = moves[j + 1] + moves[j + 3];
      by[j + 2] = out[0] * moves[j + 3] - out[1] * moves[j + 2];
      by[j + 3] = out[0] * moves[j + 2] + out[1] * moves[j + 3];
      by[j + 4] = back[0] * moves[j + 5] - back[1] * moves[j + 4];
      by[j + 5] = back[0] * moves[j + 4] + back[1] * moves[j + 5];
      by[j + 6] = moves[j + 4] + moves[j + 6];
      by[j + 7] = moves[j + 5] + moves[j + 7];
      const missing = this.cover.missing(this.passages.cell[p]);
      for (let i = j; i < j + 8; i++) {
        this.weight[which[i]] += by[i] * by[i];
        this.wanted[which[i]] += by[i] * missing;
      }
    }
  }

  /** After all outlines. */
  close(): void {
    for (let i = 0; i < this.count; i++) this.weight[i] = this.weight[i] * (1 + DAMPING) + HELD;
    this.weight[this.count] = 1;
    this.wanted[this.count] = 0;
  }

  /** The sums' matrix times some unknowns. */
  times(of: Float64Array, into: Float64Array): void {
    const { which, by, count, weight } = this;
    const { cell } = this.passages;
    const { scratch } = this.cover;
    of[count] = 0;
    for (let p = 0, j = 0; p < cell.length; p++) {
      let sum = 0;
      for (const end = j + 8; j < end; j++) sum += by[j] * of[which[j]];
      scratch[cell[p]] += sum;
    }
    for (let i = 0; i < count; i++) into[i] = DAMPING * weight[i] * of[i];
    for (let p = 0, j = 0; p < cell.length; p++) {
      const change = scratch[cell[p]];
      for (const end = j + 8; j < end; j++) into[which[j]] += by[j] * change;
    }
    into[count] = 0;
    for (let p = 0; p < cell.length; p++) scratch[cell[p]] = 0;
  }
}
