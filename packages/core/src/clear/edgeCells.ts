import { type Edge } from "./edgeWalk";

// Thresholds: what they decide is measured by `npm run rims`.

/** Pixels across within which an edge is of one kind. */
const CELL = 8;
/** One place that sees a soft edge weighs as much as so many that see a sharp one: grain ends climbs, it makes none. */
const SOFT_WEIGHT = 2;

/** Whether edges are sharp or soft, by cells of a picture: single places are misled by grain, their neighbours outvote them. */
export class EdgeCells {
  private readonly across: number;
  private readonly votes: Int32Array;

  constructor(width: number, height: number) {
    this.across = Math.ceil(width / CELL) + 2;
    this.votes = new Int32Array(this.across * (Math.ceil(height / CELL) + 2));
  }

  count(x: number, y: number, edge: Edge): void {
    this.votes[this.cellAt(x, y)] += edge === "soft" ? SOFT_WEIGHT : -1;
  }

  kindAt(x: number, y: number): Edge {
    const cell = this.cellAt(x, y);
    let sum = 0;
    for (let row = -this.across; row <= this.across; row += this.across)
      for (let column = -1; column <= 1; column++) sum += this.votes[cell + row + column];
    return sum > 0 ? "soft" : "sharp";
  }

  private cellAt(x: number, y: number): number {
    return (Math.floor(y / CELL) + 1) * this.across + Math.floor(x / CELL) + 1;
  }
}
