import { type Knot } from "../../path/outline";
import { span, type Point } from "../line";
import { type Outline } from "./cover";
import { joinedOver, partedAt, pieceOf, placeOn, waysAt } from "./piece";

/** A change of one outline, at a knot or on the piece that begins there. */
export interface Change {
  readonly kind: keyof typeof KINDS;
  readonly outline: number;
  readonly knot: number;
  /** How far along the piece, 0..1, for what is done on it. */
  readonly t: number;
  readonly place: Point;
}

/** Half a pixel further the same change is another. */
export const nameOf = ({ kind, outline, place: [x, y] }: Change): string =>
  `${kind} ${outline} ${Math.round(2 * x)} ${Math.round(2 * y)}`;

/** What each kind does to the knots. @returns  the number of the knot whose piece is looked at afterwards */
const KINDS = {
  /** A knot more in the middle of a piece. */
  between(edit: Editing, k: number, t: number): number {
    const next = edit.after(k);
    const [a, between, b] = partedAt(edit.list[k], edit.list[next], t);
    edit.list[next] = b;
    edit.list[k] = a;
    edit.insert(k + 1, between);
    return k;
  },
  /** A corner becomes two, each a little way along its side. */
  parted(edit: Editing, k: number): number {
    const { list } = edit;
    const [first, second] = corners(list[edit.before(k)], list[k], list[edit.after(k)]);
    list[k] = first;
    edit.insert(k + 1, second);
    return k;
  },
  /** A knot less. */
  left(edit: Editing, k: number): number {
    const { list } = edit;
    const [before, after] = [edit.before(k), edit.after(k)];
    [list[before], list[after]] = joinedOver(list[before], list[k], list[after]);
    edit.remove(k);
    return before > k ? before - 1 : before;
  },
  /** A curve becomes a straight piece. */
  straight(edit: Editing, k: number): number {
    edit.straighten(k);
    return k;
  },
  /** A curve becomes two straight pieces, the corner where it is farthest from the straight way. */
  bent(edit: Editing, k: number): number {
    const [a, b] = [edit.list[k], edit.list[edit.after(k)]];
    const corner = farthestOn(a, b);
    edit.straighten(k);
    edit.insert(k + 1, { at: corner });
    return k;
  },
} as const;

/** The knots of an outline while changes are made, from its last knot to its first. */
class Editing {
  readonly list: Knot[];
  /** Where the changes already made are now. */
  places: number[] = [];

  constructor(knots: Outline) {
    this.list = [...knots];
  }

  after = (k: number): number => (k + 1) % this.list.length;
  before = (k: number): number => (k + this.list.length - 1) % this.list.length;

  insert(k: number, knot: Knot): void {
    this.list.splice(k, 0, knot);
    this.places = this.places.map((i) => (i >= k ? i + 1 : i));
  }

  remove(k: number): void {
    this.list.splice(k, 1);
    this.places = this.places.map((i) => (i > k ? i - 1 : i));
  }

  straighten(k: number): void {
    const next = this.after(k);
    const { out: _out, ...from } = this.list[k];
    this.list[k] = from;
    const { in: _in, ...to } = this.list[next];
    this.list[next] = to;
  }
}

/** An outline with changes made, and where each of them, in the order given, is then. No two may be at one piece. */
export function changed(knots: Outline, changes: readonly Change[]): { list: Knot[]; places: number[] } {
  const edit = new Editing(knots);
  const order = [...changes.keys()].sort((a, b) => changes[b].knot - changes[a].knot);
  for (const i of order) {
    const { kind, knot, t } = changes[i];
    const place = KINDS[kind](edit, knot, t);
    edit.places.push(place);
  }
  const places = changes.map(() => 0);
  order.forEach((i, n) => (places[i] = edit.places[n]));
  return { list: edit.list, places };
}

/** Two corners made of one begin so far from it, in pixels. */
const PARTED = 0.8;

function corners(before: Knot, knot: Knot, next: Knot): readonly [Knot, Knot] {
  const [back, on] = waysAt(before, knot, next);
  const place = (way: Point): { at: Point; left: number } => {
    const length = Math.max(span(...way), 1e-9);
    const far = Math.min(PARTED, length / 3);
    const at: Point = [knot.at[0] + (way[0] / length) * far, knot.at[1] + (way[1] / length) * far];
    return { at, left: 1 - far / length };
  };
  const [first, second] = [place(back), place(on)];
  const shorter = ([x, y]: Point, left: number): Point => [x * left, y * left];
  return [
    { at: first.at, ...(knot.in ? { in: shorter(knot.in, first.left) } : {}) },
    { at: second.at, ...(knot.out ? { out: shorter(knot.out, second.left) } : {}) },
  ];
}

const PARTS = 16;

function farthestOn(a: Knot, b: Knot): Point {
  const piece = pieceOf(a, b);
  const [dx, dy] = [b.at[0] - a.at[0], b.at[1] - a.at[1]];
  let [best, most] = [placeOn(piece, 0.5), -1];
  for (let k = 1; k < PARTS; k++) {
    const place = placeOn(piece, k / PARTS);
    const far = Math.abs(dx * (place[1] - a.at[1]) - dy * (place[0] - a.at[0]));
    if (far > most) [best, most] = [place, far];
  }
  return best;
}
