import { type CutOutWish } from "@hardline/core/clear/cutOut/cutOut";
import { type Stroke } from "@hardline/core/clear/strokes";
import { runToEnd } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { squaredDistanceTo } from "@hardline/core/region/distance";
import { flood } from "@hardline/core/region/flood";
import { type CutOutPicture } from "@hardline/demo";
import { bandAbout } from "./band";

/** Pixels of the largest wrong place below which a hand leaves it alone. */
const SMALL = 60;
/** What is wrong at a pixel; what was looked at; the place that is stroked. */
const [LOST, LEFT, SEEN, PLACE] = [1, 2, 3, 4];

/**
 * What a hand does next that looks at a cut-out: one stroke along the middle of the largest place that is wrong, four
 * pixels and more from the edge. Null where none is left to see.
 */
export function strokeOnWorst({ picture, alpha, wish }: CutOutPicture, result: Rgba): CutOutWish | null {
  const { width, height } = picture;
  const nearEdge = bandAbout(alpha, width, height, 4);
  const wrong = Uint8Array.from(alpha, (a, i) => {
    const is = result.data[i * 4 + 3];
    if (nearEdge[i]) return 0;
    return a === 255 && is < 128 ? LOST : a === 0 && is >= 128 ? LEFT : 0;
  });
  let worst = { pixels: SMALL - 1, seed: -1 };
  const plane = wrong.slice();
  for (let i = 0; i < plane.length; i++) {
    if (plane[i] !== LOST && plane[i] !== LEFT) continue;
    const { pixels } = runToEnd(flood(plane, width, height, [i], plane[i], SEEN));
    if (pixels > worst.pixels) worst = { pixels, seed: i };
  }
  if (worst.seed < 0) return null;
  const kind = wrong[worst.seed];
  const place = wrong.slice();
  runToEnd(flood(place, width, height, [worst.seed], kind, PLACE));
  const drawn = along(
    place.map((v) => (v === PLACE ? 1 : 0)),
    width,
    height,
  );
  return kind === LOST ? { ...wish, keep: [...wish.keep, drawn] } : { ...wish, away: [...wish.away, drawn] };
}

/** The longest straight stroke through a place's deepest pixel that stays well inside it. */
function along(place: Uint8Array, width: number, height: number): Stroke {
  const inside = runToEnd(
    squaredDistanceTo(
      place.map((v) => 1 - v),
      width,
      height,
    ),
  );
  let deepest = 0;
  inside.forEach((d, i) => {
    if (place[i] && d > (place[deepest] ? inside[deepest] : 0)) deepest = i;
  });
  const depth = Math.sqrt(inside[deepest]);
  const [x, y] = [deepest % width, Math.floor(deepest / width)];
  const margin = Math.min(7, 0.7 * depth);
  const reach = (dx: number, dy: number): number => {
    for (let t = 1; t <= 60; t++) {
      const [u, v] = [Math.round(x + t * dx), Math.round(y + t * dy)];
      const out = u < 0 || v < 0 || u >= width || v >= height;
      if (out || !place[v * width + u] || inside[v * width + u] < margin * margin) return t - 1;
    }
    return 60;
  };
  let longest = { length: -1, points: [] as [number, number][] };
  for (let k = 0; k < 16; k++) {
    const [dx, dy] = [Math.cos((Math.PI * k) / 16), Math.sin((Math.PI * k) / 16)];
    const [there, back] = [reach(dx, dy), reach(-dx, -dy)];
    if (there + back <= longest.length) continue;
    const end = (t: number): [number, number] => [(x + t * dx) / width, (y + t * dy) / height];
    longest = { length: there + back, points: [end(there), end(-back)] };
  }
  return { points: longest.points, sizeMm: Math.max(0.3, Math.min(1.2, 0.14 * depth)), softness: 0 };
}
