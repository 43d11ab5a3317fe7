import { type Rect } from "../raster/types";
import { goesRound, ringArea, ringBox, type Part, type Ring, type Rings } from "./rings";

/** Cells along each side of the grid, at most. */
const MOST_CELLS = 64;
/** Numbers in a ring from which on its sides are noted by their height. */
const MANY = 256;

/** Finds the rings whose boxes hold a place, without asking every one: their boxes are noted in a grid. */
export class RingsAround {
  private readonly boxes: readonly Rect[];
  private readonly cells: number[][] = [];
  private readonly sides: (SidesByHeight | undefined)[] = [];
  private readonly across: number;
  private readonly left: number;
  private readonly top: number;
  private readonly wide: number;
  private readonly high: number;

  constructor(private readonly rings: Rings) {
    this.boxes = rings.map(ringBox);
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const { x, y, width, height } of this.boxes) {
      [left, top] = [Math.min(left, x), Math.min(top, y)];
      [right, bottom] = [Math.max(right, x + width), Math.max(bottom, y + height)];
    }
    this.across = Math.max(1, Math.min(MOST_CELLS, Math.ceil(Math.sqrt(rings.length))));
    [this.left, this.top] = [left, top];
    this.wide = (right - left) / this.across || 1;
    this.high = (bottom - top) / this.across || 1;
    for (const [k, { x, y, width, height }] of this.boxes.entries())
      for (let row = this.rowOf(y); row <= this.rowOf(y + height); row++)
        for (let column = this.columnOf(x); column <= this.columnOf(x + width); column++)
          (this.cells[row * this.across + column] ??= []).push(k);
  }

  /** Numbers of the rings whose boxes hold a place, rising. */
  at(x: number, y: number): number[] {
    const cell = this.cells[this.rowOf(y) * this.across + this.columnOf(x)] ?? [];
    return cell.filter((k) => {
      const box = this.boxes[k];
      return x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height;
    });
  }

  /** Numbers of the rings that go round a place, rising. */
  round(x: number, y: number): number[] {
    return this.at(x, y).filter((k) => this.goesRound(k, x, y));
  }

  /** Whether a ring goes round a place, as `goesRound` tells it: of many sides only those at its height are looked at. */
  goesRound(k: number, x: number, y: number): boolean {
    const ring = this.rings[k];
    if (ring.length < MANY) return goesRound(ring, x, y);
    const sides = (this.sides[k] ??= new SidesByHeight(ring, this.boxes[k]));
    return sides.goRound(x, y);
  }

  boxOf(k: number): Rect {
    return this.boxes[k];
  }

  private columnOf(x: number): number {
    return Math.max(0, Math.min(this.across - 1, Math.floor((x - this.left) / this.wide)));
  }

  private rowOf(y: number): number {
    return Math.max(0, Math.min(this.across - 1, Math.floor((y - this.top) / this.high)));
  }
}

/** The sides of a ring, noted by bands of height. */
class SidesByHeight {
  private readonly high: number;
  private readonly bands: number;
  /** Where the sides of each band begin in the list of them, by the place of the corner where a side ends. */
  private readonly starts: Uint32Array;
  private readonly list: Uint32Array;

  constructor(
    private readonly ring: Ring,
    private readonly box: Rect,
  ) {
    this.bands = ring.length >> 3;
    this.high = box.height / this.bands || 1;
    this.starts = new Uint32Array(this.bands + 1);
    this.eachSide((band) => void this.starts[band + 1]++);
    for (let band = 0; band < this.bands; band++) this.starts[band + 1] += this.starts[band];
    this.list = new Uint32Array(this.starts[this.bands]);
    const next = this.starts.slice();
    this.eachSide((band, k) => void (this.list[next[band]++] = k));
  }

  goRound(x: number, y: number): boolean {
    const { ring, list } = this;
    const band = this.bandOf(y);
    let inside = false;
    for (let n = this.starts[band]; n < this.starts[band + 1]; n++) {
      const k = list[n];
      const j = k === 0 ? ring.length - 2 : k - 2;
      const [ax, ay, bx, by] = [ring[k], ring[k + 1], ring[j], ring[j + 1]];
      if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    }
    return inside;
  }

  private eachSide(act: (band: number, k: number) => void): void {
    const { ring } = this;
    for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
      const last = this.bandOf(Math.max(ring[k + 1], ring[j + 1]));
      for (let band = this.bandOf(Math.min(ring[k + 1], ring[j + 1])); band <= last; band++) act(band, k);
    }
  }

  private bandOf(y: number): number {
    return Math.max(0, Math.min(this.bands - 1, Math.floor((y - this.box.y) / this.high)));
  }
}

/** The parts of an area, in the order of their outer rings. A hole belongs to the smallest outer ring round it. */
export function partsOf(rings: Rings): Part[] {
  const outers = rings.filter((r) => ringArea(r) > 0);
  const around = new RingsAround(outers);
  const areas = outers.map(ringArea);
  const holes: Ring[][] = outers.map(() => []);
  for (const hole of rings) {
    if (ringArea(hole) > 0) continue;
    const box = ringBox(hole);
    let parent = -1;
    for (const k of around.at(hole[0], hole[1])) {
      if (parent >= 0 && areas[k] >= areas[parent]) continue;
      if (!isBoxIn(box, around.boxOf(k))) continue;
      if (around.goesRound(k, hole[0], hole[1])) parent = k;
    }
    if (parent >= 0) holes[parent].push(hole);
  }
  return outers.map((outer, k) => ({ outer, holes: holes[k] }));
}

const isBoxIn = (a: Rect, b: Rect): boolean =>
  a.x >= b.x && a.y >= b.y && a.x + a.width <= b.x + b.width && a.y + a.height <= b.y + b.height;
