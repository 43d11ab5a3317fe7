import { type Box } from "./geometry";

/**
 * A drawing that takes longer than a screen waits, made once and laid on the table again and again. While the table moves
 * the drawing moves with it; what comes in at the edge is missing until it is drawn anew.
 */
export class ShiftedLayer {
  private readonly canvas = document.createElement("canvas");
  private made: { readonly of: readonly unknown[]; readonly x: number; readonly y: number } | null = null;

  /**
   * @param of     all that it shows but its place; where any of it changes it is drawn anew
   * @param x, y   its place
   * @param exact  draws it anew for another place as well
   * @returns whether it was laid as drawn for another place
   */
  lay(
    pen: CanvasRenderingContext2D,
    box: Box,
    of: readonly unknown[],
    [x, y]: readonly [number, number],
    exact: boolean,
    draw: (pen: CanvasRenderingContext2D) => void,
  ): boolean {
    const ratio = window.devicePixelRatio || 1;
    const all = [...of, box.width, box.height, ratio];
    const { made } = this;
    const same = made !== null && all.length === made.of.length && all.every((v, k) => v === made.of[k]);
    const stays = same && made.x === x && made.y === y;
    if (!same || (exact && !stays)) {
      const [width, height] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
      if (this.canvas.width !== width || this.canvas.height !== height)
        [this.canvas.width, this.canvas.height] = [width, height];
      const own = this.canvas.getContext("2d")!;
      own.setTransform(ratio, 0, 0, ratio, 0, 0);
      own.clearRect(0, 0, box.width, box.height);
      draw(own);
      this.made = { of: all, x, y };
    }
    const [fx, fy] = [this.made!.x, this.made!.y];
    pen.drawImage(this.canvas, x - fx, y - fy, box.width, box.height);
    return x !== fx || y !== fy;
  }
}
