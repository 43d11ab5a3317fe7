import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { squaredDistanceTo, NOWHERE } from "../region/distance";
import { flood } from "../region/flood";
import { TINT } from "../raster/types";
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
  const look = inStretches(inside.length, (from, to) => {
    for (let i = from; i < to; i++) inside[i] = data[i * 4 + 3] >= 128 ? 1 : 0;
  });
  yield* workSlice(look, 0, 0.02);
  const nearest = new Int32Array(width * height);
  if (grow > 0) {
    const out = yield* workSlice(squaredDistanceTo(inside, width, height, nearest), 0.02, 0.4);
    const reach = (grow + 1.5) * (grow + 1.5);
    const growing = inStretches(out.length, (from, to) => {
      for (let i = from; i < to; i++) {
        if (out[i] === 0 || out[i] > reach || out[i] === NOWHERE) continue;
        const j = nearest[i];
        const past = data[j * 4 + 3] / 255 - 0.5; // how far beyond that pixel's middle the edge lies
        const cover = Math.round(255 * clamp(grow - (Math.sqrt(out[i]) - past) + 0.5));
        if (cover <= data[i * 4 + 3]) continue;
        const colours = bleed ? data : source.data;
        const at = bleed ? j * 4 : i * 4;
        for (let k = 0; k < 3; k++) data[i * 4 + k] = colours[at + k];
        data[i * 4 + 3] = cover;
      }
    });
    yield* workSlice(growing, 0.4, 0.45);
  }
  const choke = Math.max(0, -grow);
  if (choke === 0 && feather === 0) return;
  const before = new Uint8Array(inside.length);
  const turn = inStretches(inside.length, (from, to) => {
    for (let i = from; i < to; i++) {
      before[i] = data[i * 4 + 3];
      inside[i] = before[i] >= 128 ? 0 : 1;
    }
  });
  yield* workSlice(turn, 0.45, 0.5);
  const deep = yield* workSlice(squaredDistanceTo(inside, width, height, nearest), 0.5, 0.9);
  const fading = inStretches(deep.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = before[i];
      if (alpha === 0 || deep[i] === NOWHERE) continue;
      // Distance from the edge, inwards; an outside pixel that is part covered has the edge within itself.
      const inwards =
        deep[i] === 0 ? alpha / 255 - 0.5 : Math.sqrt(deep[i]) - (0.5 - before[nearest[i]] / 255);
      const left = inwards - choke;
      const share = feather > 0 ? clamp((left + 0.5) / (feather + 1)) : clamp(left + 0.5);
      const cover = Math.round(255 * share);
      if (cover < alpha) data[i * 4 + 3] = cover;
    }
  });
  yield* workSlice(fading, 0.9, 1);
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));

/** What a pixel is while a clearing is tidied, and what it is once it was looked at. */
const [BARE, FAINT, SEEN, JOINED, OPEN, MARK] = [1, 2, 3, 4, 5, 6];

/**
 * Takes away stray bits of art of fewer pixels than `specks`, and of any size where they are no more than a tint
 * (under a tenth); gives back holes of fewer pixels than `pinholes` that art encloses. Bits are joined over edges; a
 * tint does not join them.
 */
export function* tidy(clearing: Clearing, specks: number, pinholes: number): Work<void> {
  const { data, source, taken } = clearing;
  const { width, height } = source;
  const plane = new Uint8Array(width * height);
  const look = inStretches(plane.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = data[i * 4 + 3];
      plane[i] = alpha === 0 ? BARE : alpha < TINT ? FAINT : SEEN;
    }
  });
  yield* workSlice(look, 0, 0.05);
  const goes = (j: number): void => {
    data[j * 4 + 3] = 0;
    taken[j] = 1;
    plane[j] = BARE;
  };
  if (specks > 0) {
    yield* workSlice(eachPatch(plane, width, height, [SEEN, JOINED], specks, goes), 0.05, 0.3);
    // What is faint stays only where it is joined to something stronger.
    yield* workSlice(join(plane, width, height), 0.3, 0.5);
    yield* workSlice(
      inStretches(plane.length, (from, to) => {
        for (let i = from; i < to; i++) if (plane[i] === FAINT) goes(i);
      }),
      0.5,
      0.55,
    );
  }
  if (pinholes > 0)
    yield* workSlice(
      eachPatch(plane, width, height, [BARE, OPEN], pinholes, (j) => {
        data.set(source.data.subarray(j * 4, j * 4 + 4), j * 4);
        taken[j] = 0;
      }),
      0.5,
      1,
    );
}

/** Turns every patch of one kind into another, and acts on every pixel of those of fewer pixels than `under`. */
function* eachPatch(
  plane: Uint8Array,
  width: number,
  height: number,
  [kind, then]: readonly [number, number],
  under: number,
  act: (i: number) => void,
): Work<void> {
  const atOnce = rowsAtOnce(width) * width;
  for (let i = 0, told = 0; i < plane.length; i++) {
    if (i === told) {
      told += atOnce;
      yield i / plane.length;
    }
    if (plane[i] !== kind) continue;
    const { pixels, ...box } = yield* flood(plane, width, height, [i], kind, then);
    if (pixels >= under) continue;
    // What is open to the picture's edge is no hole.
    const open = box.x === 0 || box.y === 0 || box.x + box.width === width || box.y + box.height === height;
    if (kind === BARE && open) continue;
    const { x, y, width: across, height: down } = yield* flood(plane, width, height, [i], then, MARK);
    for (let v = y; v < y + down; v++)
      for (let j = v * width + x; j < v * width + x + across; j++) {
        if (plane[j] !== MARK) continue;
        plane[j] = then;
        act(j);
      }
  }
}

/** Whatever is faint and joined to a patch that stays becomes JOINED too. */
function* join(plane: Uint8Array, width: number, height: number): Work<void> {
  const atOnce = rowsAtOnce(width) * width;
  for (let i = 0, told = 0; i < plane.length; i++) {
    if (i === told) {
      told += atOnce;
      yield i / plane.length;
    }
    if (plane[i] !== FAINT) continue;
    const x = i % width;
    const beside =
      (x > 0 && plane[i - 1] === JOINED) ||
      (x + 1 < width && plane[i + 1] === JOINED) ||
      plane[i - width] === JOINED ||
      plane[i + width] === JOINED;
    if (beside) yield* flood(plane, width, height, [i], FAINT, JOINED);
  }
}
