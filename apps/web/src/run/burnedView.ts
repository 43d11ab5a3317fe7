import { type Film } from "@hardline/core/machine/kinds/kind";
import { moveAt, shareOf, type Timeline } from "@hardline/core/machine/timeline";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { viewBits } from "@hardline/core/view/view";

/** Where the bed lies on a canvas: a place x, y of the machine, y up, is at left + x scale, top - y scale. */
export interface BedView {
  readonly left: number;
  readonly top: number;
  readonly scale: number;
}

/**
 * What is marked at a second of the run, grown move by move while time goes on, and anew when it goes back: how much of each
 * pixel the beam has covered.
 */
export class BurnedView {
  private readonly cover: Float32Array;
  /** Of a film, how much of each pixel its dots will cover, 0..1. */
  private dots: Float32Array | null = null;
  private move = 0;
  private share = 0;
  readonly width: number;
  readonly height: number;

  constructor(
    private readonly timeline: Timeline,
    private readonly view: BedView,
    width: number,
    height: number,
    /** How wide the beam, or the blade's cut, is drawn, in mm, of each pass. */
    private readonly widthMm: readonly number[],
  ) {
    this.width = width;
    this.height = height;
    this.cover = new Float32Array(width * height);
  }

  /**
   * What the beam goes over is marked where this film has a dot, and nowhere else.
   * @param x, y  where its top left lies, in mm of the machine, y up
   */
  through({ bits, dotsPerInch }: Film, x: number, y: number): this {
    const { left, top, scale } = this.view;
    const perMm = dotsPerInch / MM_PER_INCH;
    const part = {
      x: (-left / scale - x) * perMm,
      y: (y - top / scale) * perMm,
      width: (this.width / scale) * perMm,
      height: (this.height / scale) * perMm,
    };
    const seen = viewBits(bits, part, this.width, this.height);
    this.dots = Float32Array.from(seen.data, (v) => 1 - v / 255);
    return this;
  }

  /** Brings it to a second of the run. @returns where the head is */
  upTo(second: number): readonly [number, number] {
    const { moves } = this.timeline;
    const k = moveAt(this.timeline, second);
    const share = moves.count > 0 ? shareOf(this.timeline, k, second) : 0;
    if (k < this.move || (k === this.move && share < this.share)) {
      this.cover.fill(0);
      [this.move, this.share] = [0, 0];
    }
    for (; this.move < k; this.move++, this.share = 0) this.mark(this.move, this.share, 1);
    this.mark(k, this.share, share);
    this.share = share;
    const at = (a: Float64Array) => a[k] + (a[k + 1] - a[k]) * share;
    return [at(moves.x), at(moves.y)];
  }

  private mark(k: number, from: number, to: number): void {
    const { moves } = this.timeline;
    if (!(moves.power[k] > 0) || to <= from) return;
    const { left, top, scale } = this.view;
    const [dx, dy] = [moves.x[k + 1] - moves.x[k], moves.y[k + 1] - moves.y[k]];
    const x0 = left + (moves.x[k] + dx * from) * scale;
    const y0 = top - (moves.y[k] + dy * from) * scale;
    const [lx, ly] = [dx * (to - from) * scale, -dy * (to - from) * scale];
    const length = Math.sqrt(lx * lx + ly * ly);
    const steps = Math.max(1, Math.ceil(length * 4));
    const each = length / steps;
    const half = (this.widthMm[moves.pass[k]] * scale) / 2;
    // A line is so wide across its way: what of that lies on a pixel covers it by as much.
    const lies = Math.abs(lx) >= Math.abs(ly);
    for (let s = 0; s < steps; s++) {
      const [x, y] = [x0 + (lx * (s + 0.5)) / steps, y0 + (ly * (s + 0.5)) / steps];
      const [along, across] = lies ? [Math.floor(x), y] : [Math.floor(y), x];
      for (let c = Math.floor(across - half); c < across + half; c++) {
        const share = Math.min(c + 1, across + half) - Math.max(c, across - half);
        const [px, py] = lies ? [along, c] : [c, along];
        if (px >= 0 && py >= 0 && px < this.width && py < this.height)
          this.cover[py * this.width + px] += each * share;
      }
    }
  }

  /** The marks over what lies there: mixed by cover with the colour of marks. */
  draw(image: ImageData, colour: readonly [number, number, number]): void {
    const { data } = image;
    for (let i = 0, o = 0; i < this.cover.length; i++, o += 4) {
      const share = Math.min(1, this.cover[i]) * (this.dots?.[i] ?? 1);
      data[o] = colour[0];
      data[o + 1] = colour[1];
      data[o + 2] = colour[2];
      data[o + 3] = Math.round(255 * share);
    }
  }
}
