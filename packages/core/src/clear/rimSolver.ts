import { apart, SETTLED, type EdgeWalk } from "./edgeWalk";
import { type Clearing } from "./clearing";
import { type Rim } from "./rim";
import { isFaint, NOISE, type Colour, type RimMixtures } from "./rimMixtures";

// Thresholds: what they decide is measured by `npm run rims`.

/** In the thin end of a soft edge smaller shares are seen: its neighbours have them too. */
export const NOISE_IN_TAIL = 0.02;

/** A copy that stays when the walk goes on. */
const colourOf = (c: Colour): Colour => [c[0], c[1], c[2]];

/** Finds what the pixels of a rim are mixed of, by walks outwards to the background and inwards to the art. */
export class RimSolver {
  constructor(
    private readonly clearing: Clearing,
    private readonly rim: Rim,
    private readonly mixtures: RimMixtures,
    private readonly walk: EdgeWalk,
  ) {}

  /** Solves a rim pixel by way of the taken pixel nearest to it; false when it is all art. */
  isMixed(i: number, q: number): boolean {
    const [x, y] = [i % this.rim.width, Math.floor(i / this.rim.width)];
    const [qx, qy] = [q % this.rim.width, Math.floor(q / this.rim.width)];
    const depth = Math.sqrt(this.rim.square[i]);
    const [ux, uy] = [(x - qx) / depth, (y - qy) / depth];
    this.walk.outwards(qx, qy, ux, uy);
    const edge = this.rim.cells.kindAt(qx, qy);
    if (edge === "sharp" && !this.walk.thinsOutwards(x, y, ux, uy)) return false;
    if (edge === "sharp" && this.mixtures.isThin(qx, qy, ux, uy)) {
      const strongest = this.mixtures.strongestNear(x, y, this.walk.back);
      if (strongest) return this.mixtures.note(i, strongest, colourOf(this.walk.back));
    }
    return (
      this.walk.inwards(x, y, ux, uy, depth, edge) &&
      this.mixtures.note(i, colourOf(this.walk.art), colourOf(this.walk.back))
    );
  }

  /** What lies outside a mixture is a mixture of the same, where grain or a walk along the edge did not show it. */
  asInside(i: number): void {
    if (this.clearing.held && this.clearing.held[i] >= 128) return;
    const soft = this.rim.cells.kindAt(i % this.rim.width, Math.floor(i / this.rim.width)) === "soft";
    let inside = -1;
    this.rim.around(i, (j) => {
      if (
        this.rim.square[j] > this.rim.square[i] &&
        this.mixtures.found.has(j) &&
        (inside < 0 || this.rim.square[j] > this.rim.square[inside])
      )
        inside = j;
    });
    const own = this.mixtures.found.get(i);
    if (inside < 0 && (own ? isFaint(own) : this.mixtures.isLikeGround(i)))
      inside = this.mixtures.strongBeside(i);
    if (inside < 0) return;
    const { art, back } = this.mixtures.found.get(inside)!;
    if (own && apart(art, back) <= SETTLED * apart(own.art, own.back)) return;
    if (soft || this.mixtures.isBetween(i, art, back)) this.mixtures.note(i, art, back);
  }

  /** Gives a taken pixel that touches the art its share of it, and the thin end of a soft edge theirs. */
  giveBack(i: number): void {
    const way = this.rim.inwardsAt(i);
    if (!way) return;
    const [x, y] = [i % this.rim.width, Math.floor(i / this.rim.width)];
    this.walk.outwards(x, y, ...way);
    const edge = this.rim.cells.kindAt(x, y);
    let beside = -1;
    this.rim.around(i, (j) => {
      const of = this.mixtures.found.get(j);
      if (
        of &&
        of.share > (this.mixtures.found.get(beside)?.share ?? 0) &&
        this.mixtures.isBetween(i, of.art, of.back)
      )
        beside = j;
    });
    if (beside < 0 && !this.walk.inwards(x, y, ...way, 0, edge)) return;
    const { back } = this.mixtures.found.get(beside) ?? this.walk;
    const art =
      beside < 0
        ? this.mixtures.wholeArt(i, { art: colourOf(this.walk.art), back: colourOf(this.walk.back) })
        : this.mixtures.found.get(beside)!.art;
    const tail = edge === "soft" ? this.walk.tail : 0;
    let front = [i];
    for (let step = 0; step <= tail && front.length > 0; step++) {
      const next: number[] = [];
      for (const j of front) {
        if (this.clearing.data[j * 4 + 3] !== 0 || this.clearing.taken[j] === 0) continue;
        const share = this.mixtures.shareOf(j, art, back);
        if (share === null || share < (tail > 0 ? NOISE_IN_TAIL : NOISE)) continue;
        this.mixtures.set(j, share, this.clearing.source.data[j * 4 + 3], art, back);
        if (step < tail) this.rim.around(j, (n) => next.push(n));
      }
      front = next;
    }
  }
}
