import { portion, rowsAtOnce, type Work } from "../maths/work";
import { squaredDistanceTo, NOWHERE } from "../region/distance";
import { flood } from "../region/flood";
import { type Clearing } from "./clearing";

/**
 * Moves the edge of the art outwards (`grow` above 0) or inwards (below), then fades it inwards over `feather`.
 * Distances are measured from where the cover passes a half, between pixels, so soft edges stay as soft.
 *
 * @param grow, feather  in pixels
 * @param bleed          what comes to light is the art's own colour, carried outwards; else the picture as it was
 */
export function* moveEdge(clearing: Clearing, grow: number, feather: number, bleed: boolean): Work<void> {
  const { data, source } = clearing;
  const { width, height } = source;
  const inside = new Uint8Array(width * height);
  for (let i = 0; i < inside.length; i++) inside[i] = data[i * 4 + 3] >= 128 ? 1 : 0;
  const nearest = new Int32Array(width * height);
  if (grow > 0) {
    const out = yield* portion(squaredDistanceTo(inside, width, height, nearest), 0, 0.45);
    const reach = (grow + 1.5) * (grow + 1.5);
    for (let i = 0; i < out.length; i++) {
      if (out[i] === 0 || out[i] > reach || out[i] === NOWHERE) continue;
      const j = nearest[i];
      const past = data[j * 4 + 3] / 255 - 0.5; // how far beyond that pixel's middle the edge lies
      const cover = Math.round(255 * clamp(grow - (Math.sqrt(out[i]) - past) + 0.5));
      if (cover <= data[i * 4 + 3]) continue;
      const from = bleed ? data : source.data;
      const at = bleed ? j * 4 : i * 4;
      for (let k = 0; k < 3; k++) data[i * 4 + k] = from[at + k];
      data[i * 4 + 3] = cover;
    }
    for (let i = 0; i < inside.length; i++) inside[i] = data[i * 4 + 3] >= 128 ? 1 : 0;
  }
  const choke = Math.max(0, -grow);
  if (choke === 0 && feather === 0) return;
  for (let i = 0; i < inside.length; i++) inside[i] ^= 1;
  const deep = yield* portion(squaredDistanceTo(inside, width, height, nearest), 0.45, 0.9);
  const atOnce = rowsAtOnce(width) * width;
  const before = new Uint8Array(inside.length);
  for (let i = 0; i < before.length; i++) before[i] = data[i * 4 + 3];
  for (let i = 0; i < deep.length; i++) {
    if (i % atOnce === 0) yield 0.9 + (0.1 * i) / deep.length;
    const alpha = before[i];
    if (alpha === 0 || deep[i] === NOWHERE) continue;
    // Distance from the edge, inwards; an outside pixel that is part covered has the edge within itself.
    const inwards = deep[i] === 0 ? alpha / 255 - 0.5 : Math.sqrt(deep[i]) - (0.5 - before[nearest[i]] / 255);
    const left = inwards - choke;
    const share = feather > 0 ? clamp((left + 0.5) / (feather + 1)) : clamp(left + 0.5);
    const cover = Math.round(255 * share);
    if (cover < alpha) data[i * 4 + 3] = cover;
  }
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));

/** Cover under which art is no more than a tint. */
export const TINT = 26;

/**
 * Takes away stray bits of art of fewer pixels than `specks`, and of any size where they are no more than a tint
 * (under a tenth); gives back holes of fewer pixels than `pinholes`. Bits are joined over edges.
 */
export function* tidy({ data, source, taken }: Clearing, specks: number, pinholes: number): Work<void> {
  const { width, height } = source;
  const plane = new Uint8Array(width * height);
  const [ART, BARE] = [1, 2];
  for (let i = 0; i < plane.length; i++) plane[i] = data[i * 4 + 3] === 0 ? BARE : ART;
  const atOnce = rowsAtOnce(width) * width;
  if (specks > 0) yield* portion(dropTint(data, taken, plane, width, height), 0, 0.4);
  for (let i = 0; i < plane.length; i++) {
    if (i % atOnce === 0) yield 0.4 + (0.6 * i) / plane.length;
    const kind = plane[i];
    if (kind !== ART && kind !== BARE) continue;
    const seen = kind + 2;
    const { pixels } = flood(plane, width, height, [i], kind, seen);
    if (kind === ART && pixels < specks) {
      forEachOf(plane, width, i, seen, (j) => {
        data[j * 4 + 3] = 0;
        taken[j] = 1;
      });
    } else if (kind === BARE && pixels < pinholes) {
      forEachOf(plane, width, i, seen, (j) => {
        data.set(source.data.subarray(j * 4, j * 4 + 4), j * 4);
        taken[j] = 0;
      });
    }
  }

  /** Goes over the pixels just filled, by filling them again. */
  function forEachOf(
    mask: Uint8Array,
    w: number,
    seed: number,
    value: number,
    act: (i: number) => void,
  ): void {
    const MARK = 9;
    const { x, y, width: across, height: down } = flood(mask, w, height, [seed], value, MARK);
    for (let v = y; v < y + down; v++)
      for (let i = v * w + x; i < v * w + x + across; i++)
        if (mask[i] === MARK) {
          act(i);
          mask[i] = value;
        }
  }
}

/** What has any cover but is joined to nothing stronger than a tint goes. */
function* dropTint(
  data: Uint8Array,
  taken: Uint8Array,
  plane: Uint8Array,
  width: number,
  height: number,
): Work<void> {
  const [ART, BARE, STRONG] = [1, 2, 5];
  const atOnce = rowsAtOnce(width) * width;
  for (let i = 0; i < plane.length; i++) {
    if (i % atOnce === 0) yield (0.5 * i) / plane.length;
    if (plane[i] === ART && data[i * 4 + 3] >= TINT) flood(plane, width, height, [i], ART, STRONG);
  }
  for (let i = 0; i < plane.length; i++) {
    if (plane[i] === STRONG) plane[i] = ART;
    else if (plane[i] === ART) {
      data[i * 4 + 3] = 0;
      taken[i] = 1;
      plane[i] = BARE;
    }
  }
}
