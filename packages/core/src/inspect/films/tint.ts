import { dotsPerMm } from "../../maths/units";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { type Gray } from "../../raster/types";
import { componentsOf } from "../../region/components";
import { type Finish } from "../../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "../check";

/** Up to so much of an ink is a haze: four percent. */
const FAINT = 10;

/** A plate as it is looked at here: its tones and its name. */
export interface NamedTone {
  readonly name: string;
  readonly tone: Gray;
}

/**
 * A faint tint where nothing should be, from 0.4 percent: all plates together print next to nothing, up to the film's edge
 * or to where there is no art. It comes out as a haze of dots.
 *
 * @param alpha    of the art, every fourth byte from the fourth on
 * @param finish   of the tones
 * @param areaMm2  from this size on
 */
export function* checkTint(
  plates: readonly NamedTone[],
  alpha: Uint8Array,
  finish: Finish,
  areaMm2: number,
): Work<Check> {
  const { widthPx: width, heightPx: height } = finish;
  const perMm = dotsPerMm(finish);
  const sums = yield* workSlice(faintSums(plates, width * height), 0, 0.4);
  const rowAt = (y: number, row: Uint8Array): void => {
    const edge = y === 0 || y === height - 1;
    for (let x = 0, i = y * width; x < width; x++, i++)
      row[x] =
        sums[i] === 0 ? 0 : edge || x === 0 || x === width - 1 || isBareBeside(alpha, i, width) ? 2 : 1;
  };
  const smallest = Math.max(1, Math.ceil(areaMm2 * perMm * perMm));
  const boxes = (yield* workSlice(componentsOf(width, height, rowAt, smallest), 0.4, 0.8)).filter(
    (c) => c.strong > 0,
  );
  if (boxes.length === 0)
    return {
      id: "tint",
      level: "fine",
      value: 0,
      unit: "%",
      text: "No tint where nothing should be",
      detail: "Background is zero on every plate.",
      places: [],
    };
  const most = plates.map(() => 0);
  for (const [k, { tone }] of plates.entries())
    yield* inStretches(sums.length, (from, to) => {
      for (let i = from; i < to; i++) if (sums[i] > 0) most[k] = Math.max(most[k], 255 - tone.data[i]);
    });
  const mm2 = boxes.reduce((sum, b) => sum + b.pixels, 0) / perMm / perMm;
  const percent = (100 * Math.max(...most)) / 255;
  // A background lies about the art; what runs to the edge in places may be the art's own shade.
  const about = shareOfEdge(sums, alpha, width, height) >= ABOUT;
  return {
    id: "tint",
    level: about ? "stop" : "look",
    value: Math.round(percent * 10) / 10,
    unit: "%",
    text: about ? "Tint where nothing should be" : "Faint tint up to the edge",
    detail: `Up to ${figure(percent)} % over ${figure(mm2, 0)} mm², on ${plates
      .filter((_, k) => most[k] > 0)
      .map((p) => p.name)
      .join(", ")}: a haze of dots. Clear the background, or take the garment's colour out.`,
    places: firstOf(boxes, MOST_PLACES, (a, b) => b.pixels - a.pixels).map((b) => placeOf(b, finish)),
  };
}

/** From this share of the film's edge on a tint is a background's. */
const ABOUT = 0.4;

/** Share of the edge, as far as there is art on it, that is faint; 1 where the art ends before the edge. */
function shareOfEdge(sums: Uint8Array, alpha: Uint8Array, width: number, height: number): number {
  let [faint, count] = [0, 0];
  const look = (i: number): void => {
    if (alpha[4 * i + 3] === 0) return;
    count++;
    if (sums[i] > 0) faint++;
  };
  for (let x = 0; x < width; x++) for (const y of [0, height - 1]) look(y * width + x);
  for (let y = 0; y < height; y++) for (const x of [0, width - 1]) look(y * width + x);
  return count === 0 ? 1 : faint / count;
}

/** All plates together where they print next to nothing; 0 where they print nothing, or more. */
function* faintSums(plates: readonly NamedTone[], count: number): Work<Uint8Array> {
  const sums = new Uint8Array(count);
  yield* inStretches(count, (from, to) => {
    for (const { tone } of plates) addFaint(tone.data, sums, from, to);
    for (let i = from; i < to; i++) if (sums[i] > FAINT) sums[i] = 0;
  });
  return sums;
}

function addFaint(plane: Uint8Array, sums: Uint8Array, from: number, to: number): void {
  for (let i = from; i < to; i++) sums[i] = Math.min(FAINT + 1, sums[i] + 255 - plane[i]);
}

const isBareBeside = (alpha: Uint8Array, i: number, width: number): boolean =>
  alpha[4 * i - 1] === 0 ||
  alpha[4 * i + 7] === 0 ||
  alpha[4 * (i - width) + 3] === 0 ||
  alpha[4 * (i + width) + 3] === 0;
