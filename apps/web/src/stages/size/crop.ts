export type CropBox = readonly [left: number, top: number, width: number, height: number];

/** What the hand has hold of: a corner or side (-1, 0 or 1 each way), or the whole box from where it was taken. */
export type Grip =
  | { readonly of: "edge"; readonly x: -1 | 0 | 1; readonly y: -1 | 0 | 1 }
  | { readonly of: "all"; readonly from: readonly [number, number]; readonly box: CropBox };

export const LEAST = 0.01;
const within = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * The box after a drag to a point of the artwork, kept on the artwork and no smaller than can be.
 * @param ratio  width to height, in fractions, that is kept; null for none
 */
export function draggedTo(
  box: CropBox,
  grip: Grip,
  at: readonly [number, number],
  ratio: number | null,
): CropBox {
  if (grip.of === "all") {
    const [x, y, w, h] = grip.box;
    return [within(x + at[0] - grip.from[0], 0, 1 - w), within(y + at[1] - grip.from[1], 0, 1 - h), w, h];
  }
  const side = (k: 0 | 1, way: -1 | 0 | 1): [number, number] => {
    const [low, high] = [box[k], box[k] + box[k + 2]];
    if (way === 0) return [low, high];
    return way < 0 ? [within(at[k], 0, high - LEAST), high] : [low, within(at[k], low + LEAST, 1)];
  };
  const [left, right] = side(0, grip.x);
  const [top, bottom] = side(1, grip.y);
  let [w, h] = [right - left, bottom - top];
  if (ratio === null) return [left, top, w, h];
  // The side that was dragged further leads; neither leaves the artwork.
  const roomX = grip.x < 0 ? right : 1 - left;
  const roomY = grip.y < 0 ? bottom : 1 - top;
  w = Math.min(grip.x === 0 ? h * ratio : grip.y === 0 ? w : Math.max(w, h * ratio), roomX, roomY * ratio);
  h = w / ratio;
  return [grip.x < 0 ? right - w : left, grip.y < 0 ? bottom - h : top, w, h];
}

/** What of the box is under a point, in screen pixels. */
export function gripAt(
  box: CropBox,
  toScreen: (u: number, v: number) => readonly [number, number],
  at: readonly [number, number],
  from: readonly [number, number],
  near: number,
): Grip | null {
  const [left, top] = toScreen(box[0], box[1]);
  const [right, bottom] = toScreen(box[0] + box[2], box[1] + box[3]);
  const way = (v: number, low: number, high: number): -1 | 0 | 1 | null =>
    Math.abs(v - low) <= near ? -1 : Math.abs(v - high) <= near ? 1 : v > low && v < high ? 0 : null;
  const [x, y] = [way(at[0], left, right), way(at[1], top, bottom)];
  if (x === null || y === null) return null;
  return x === 0 && y === 0 ? { of: "all", from, box } : { of: "edge", x, y };
}

export const cursorOf = (grip: Grip | null): string => {
  if (!grip) return "crosshair";
  if (grip.of === "all") return "move";
  if (grip.x === 0) return "ns-resize";
  if (grip.y === 0) return "ew-resize";
  return grip.x === grip.y ? "nwse-resize" : "nesw-resize";
};
