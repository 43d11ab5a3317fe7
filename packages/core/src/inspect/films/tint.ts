import { dotsPerMm } from "../../maths/units";
import { inStretches, portion, type Work } from "../../maths/work";
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
 * A faint tint where nothing should be, from 0.4 percent: a haze that runs up to the film's edge or to where there is
 * no art. On each plate by itself, as each is its own film.
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
  const perMm = dotsPerMm(finish);
  const smallest = Math.max(1, Math.ceil(areaMm2 * perMm * perMm));
  const hazes: { readonly name: string; readonly most: number; readonly mm2: number; readonly boxes: Box[] }[] = [];
  for (const [k, { name, tone }] of plates.entries()) {
    const { width, height, data } = tone;
    const rowAt = (y: number, row: Uint8Array): void => {
      for (let x = 0, i = y * width; x < width; x++, i++) {
        const amount = 255 - data[i];
        row[x] = amount === 0 || amount > FAINT ? 0 : x === 0 || y === 0 || x === width - 1 || y === height - 1 || isBareBeside(alpha, i, width) ? 2 : 1;
      }
    };
    const found = yield* portion(componentsOf(width, height, rowAt, smallest), k / plates.length, (k + 0.8) / plates.length);
    const boxes = found.filter((c) => c.strong > 0);
    if (boxes.length === 0) continue;
    let most = 0;
    yield* portion(
      inStretches(data.length, (from, to) => {
        for (let i = from; i < to; i++) if (255 - data[i] <= FAINT) most = Math.max(most, 255 - data[i]);
      }),
      (k + 0.8) / plates.length,
      (k + 1) / plates.length,
    );
    const pixels = boxes.reduce((sum, b) => sum + b.pixels, 0);
    hazes.push({ name, most: (100 * most) / 255, mm2: pixels / perMm / perMm, boxes });
  }
  if (hazes.length === 0)
    return {
      id: "tint",
      level: "fine",
      value: 0,
      unit: "%",
      text: "No tint where nothing should be",
      detail: "Background is zero on every plate.",
      places: [],
    };
  const worst = hazes.reduce((a, b) => (b.mm2 > a.mm2 ? b : a));
  return {
    id: "tint",
    level: "stop",
    value: Math.round(worst.most * 10) / 10,
    unit: "%",
    text: `Tint on ${hazes.map((h) => h.name).join(", ")}`,
    detail: `Up to ${figure(worst.most)} % over ${figure(worst.mm2, 0)} mm² on ${worst.name}: prints as a haze of dots. Clear the background, or take the garment's colour out.`,
    places: firstOf(
      hazes.flatMap((h) => h.boxes),
      MOST_PLACES,
      (a, b) => b.pixels - a.pixels,
    ).map((b) => placeOf(b, finish)),
  };
}

type Box = ReturnType<typeof componentsOf> extends Work<(infer C)[]> ? C : never;

const isBareBeside = (alpha: Uint8Array, i: number, width: number): boolean =>
  alpha[4 * i - 1] === 0 ||
  alpha[4 * i + 7] === 0 ||
  alpha[4 * (i - width) + 3] === 0 ||
  alpha[4 * (i + width) + 3] === 0;
