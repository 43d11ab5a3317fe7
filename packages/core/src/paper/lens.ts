/** A place in a picture, in pixels from its upper left corner. */
export type Point = readonly [x: number, y: number];

interface Size {
  readonly width: number;
  readonly height: number;
}

/**
 * What a lens does to straight lines: a place that is r half diagonals from the picture's middle is seen 1 + bend r² times
 * as far from it. Below 0 lines bulge outwards, as a wide lens has it; above 0 inwards.
 *
 * @see Brown, "Close-range camera calibration", Photogrammetric Engineering 37, 1971 (its first radial term)
 */
export class Lens {
  private readonly middle: Point;
  private readonly reach: number;

  constructor(
    { width, height }: Size,
    private readonly by: number,
  ) {
    this.middle = [width / 2, height / 2];
    this.reach = (width * width + height * height) / 4;
  }

  /** Where a straight lens' place is seen. */
  seen([x, y]: Point): [number, number] {
    const [dx, dy] = [x - this.middle[0], y - this.middle[1]];
    const by = 1 + (this.by * (dx * dx + dy * dy)) / this.reach;
    return [this.middle[0] + dx * by, this.middle[1] + dy * by];
  }

  /** Writes where a straight lens' place is seen over that place. */
  bend(place: Float64Array): void {
    const [dx, dy] = [place[0] - this.middle[0], place[1] - this.middle[1]];
    const by = 1 + (this.by * (dx * dx + dy * dy)) / this.reach;
    place[0] = this.middle[0] + dx * by;
    place[1] = this.middle[1] + dy * by;
  }

  /** Where a straight lens would have what is seen at a place. */
  straight([x, y]: Point): [number, number] {
    const [dx, dy] = [x - this.middle[0], y - this.middle[1]];
    const far = (dx * dx + dy * dy) / this.reach;
    // r (1 + bend r²) = r': Newton's steps from r'
    const wanted = Math.sqrt(far);
    let r = wanted;
    for (let round = 0; round < 8; round++)
      r -= (r * (1 + this.by * r * r) - wanted) / (1 + 3 * this.by * r * r);
    const by = wanted === 0 ? 1 : r / wanted;
    return [this.middle[0] + dx * by, this.middle[1] + dy * by];
  }
}

/** How much a lens may bend; beyond this the outer part of the picture would fold over. */
export const MOST_BEND = 0.25;
