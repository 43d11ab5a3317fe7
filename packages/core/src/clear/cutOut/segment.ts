import { oklabOf } from "../../colour/oklab";
import { expMinus } from "../../maths/steady";
import { workSlice, rowsAtOnce, type Work } from "../../maths/work";
import { type Rgba } from "../../raster/types";
import { colourModel, costOf, strangeness, type ColourModel } from "./colourModel";
import { cheapestCut, STEPS } from "./graphCut";
import { putRight } from "./parts";
import { AWAY, KEEP } from "./said";

// Thresholds: what they decide is measured by `npm run scenes`.

/** Costs are whole numbers, this many to a unit of minus log likelihood. */
const UNIT = 100;
/** What a cut through an even area costs, in units. */
const EVEN = 24;
/** A colour that neither side knows costs both the same: models know what was scribbled on, not all there is. */
const MOST_COST = 12;
/** Squared spreads within which a colour counts as one of its side. */
const EXPLAINED = 6;
const FOREVER = 1 << 28;

export interface Segments {
  /** 1 = subject */
  readonly subject: Uint8Array;
  /** Colours of the background and of the subject, in this order. */
  readonly models: readonly [ColourModel, ColourModel];
}

/**
 * Parts a picture into subject and background along its own edges, from a few strokes on each: colour models of
 * both, and the cut that follows strong edges where it can. The models are learned again from the first result.
 *
 * @param said  KEEP, AWAY or 0 for each pixel; at least one of either
 * @see Boykov & Jolly, "Interactive Graph Cuts", ICCV 2001
 * @see Rother, Kolmogorov & Blake, "GrabCut", SIGGRAPH 2004
 */
export function* segment(picture: Rgba, said: Uint8Array): Work<Segments> {
  const { width, height } = picture;
  const count = width * height;
  const lab = labPlane(picture);
  yield 0;
  const links = yield* workSlice(linksOf(lab, width, height), 0, 0);
  const where = (test: (i: number) => boolean): number[] => {
    const list: number[] = [];
    for (let i = 0; i < count; i++) if (test(i)) list.push(i);
    return list;
  };
  let keep = where((i) => said[i] === KEEP);
  let away = where((i) => said[i] === AWAY);
  const terminal = new Int32Array(count);
  let subject: Uint8Array = new Uint8Array(count);
  let models: [ColourModel, ColourModel] = [[], []];
  for (let round = 0; round < 2; round++) {
    yield round * 0.5;
    const ofAway = colourModel(lab, away);
    yield round * 0.5 + 0.03;
    models = [ofAway, colourModel(lab, keep)];
    yield round * 0.5 + 0.06;
    weigh(lab, said, models, terminal);
    yield round * 0.5 + 0.09;
    const capacity = links.slice();
    subject = yield* workSlice(
      cheapestCut(width, height, terminal, capacity),
      round * 0.5 + 0.1,
      round * 0.5 + 0.48,
    );
    yield round * 0.5 + 0.48;
    // What was found, where its own side's colours explain it, teaches the second round. What they do not explain may
    // be mixed, or a hair of the other side.
    const explained = (i: number, model: ColourModel): boolean =>
      strangeness(model, lab[i * 3], lab[i * 3 + 1], lab[i * 3 + 2]) < EXPLAINED;
    const [back, front] = models;
    keep = where((i) => said[i] === KEEP || (subject[i] === 1 && explained(i, front)));
    yield round * 0.5 + 0.49;
    away = where((i) => said[i] === AWAY || (subject[i] === 0 && explained(i, back)));
  }
  yield* putRight(subject, said, lab, models[0], width, height);
  return { subject, models };
}

function weigh(
  lab: Float32Array,
  said: Uint8Array,
  [away, keep]: readonly [ColourModel, ColourModel],
  terminal: Int32Array,
): void {
  for (let i = 0; i < said.length; i++) {
    const more = Math.min(MOST_COST, costOf(away, lab, i)) - Math.min(MOST_COST, costOf(keep, lab, i));
    terminal[i] = said[i] === KEEP ? FOREVER : said[i] === AWAY ? -FOREVER : Math.round(UNIT * more);
  }
}

export function labPlane({ data }: Rgba): Float32Array {
  const lab = new Float32Array((data.length / 4) * 3);
  for (let o = 0, p = 0; o < data.length; o += 4, p += 3) {
    const { l, a, b } = oklabOf(data[o], data[o + 1], data[o + 2]);
    lab[p] = l;
    lab[p + 1] = a;
    lab[p + 2] = b;
  }
  return lab;
}

/** What it costs to part neighbours: little over strong edges, `EVEN` in even areas. */
export function* linksOf(lab: Float32Array, width: number, height: number): Work<Int32Array> {
  const square = (i: number, j: number): number => {
    const [x, y, z] = [
      lab[i * 3] - lab[j * 3],
      lab[i * 3 + 1] - lab[j * 3 + 1],
      lab[i * 3 + 2] - lab[j * 3 + 2],
    ];
    return x * x + y * y + z * z;
  };
  const links = new Int32Array(width * height * 8);
  let [sum, pairs] = [0, 0];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x + 1 < width; x++, i = y * width + x) {
      sum += square(i, i + 1);
      pairs++;
    }
  const beta = 1 / (2 * Math.max(0.05, sum / Math.max(1, pairs)));
  const fall = Float64Array.from({ length: 1025 }, (_, k) => expMinus(k / 64));
  const atOnce = rowsAtOnce(16 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0; x < width; x++, i++)
      STEPS.forEach(([dx, dy], d) => {
        const [u, v] = [x + dx, y + dy];
        if (d < 4 || u < 0 || v < 0 || u >= width || v >= height) return;
        const j = v * width + u;
        const cost = EVEN * fall[Math.min(1024, Math.round(64 * beta * square(i, j)))];
        const link = Math.max(1, Math.round((UNIT * cost) / (dx !== 0 && dy !== 0 ? Math.SQRT2 : 1)));
        links[i * 8 + d] = link;
        links[j * 8 + 7 - d] = link;
      });
  }
  return links;
}
