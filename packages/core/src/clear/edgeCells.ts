import { Cells } from "./cells";
import { type Edge } from "./edgeWalk";

// Thresholds: what they decide is measured by `npm run rims`.

/** Pixels across within which an edge is of one kind. */
const CELL = 8;
/** One place that sees a soft edge weighs as much as so many that see a sharp one: grain ends climbs, it makes none. */
const SOFT_WEIGHT = 2;

/** Whether edges are sharp or soft, by cells of a picture: single places are misled by grain, their neighbours outvote them. */
export class EdgeCells {
  private readonly cells: Cells;
  private readonly votes: Int32Array;

  constructor(width: number, height: number) {
    this.cells = new Cells(width, height, CELL);
    this.votes = new Int32Array(this.cells.count);
  }

  count(x: number, y: number, edge: Edge): void {
    this.votes[this.cells.at(x, y)] += edge === "soft" ? SOFT_WEIGHT : -1;
  }

  kindAt(x: number, y: number): Edge {
    return this.cells.sumAbout(this.votes, x, y) > 0 ? "soft" : "sharp";
  }
}
