import { labOfHex } from "./glareLab";
import { LINEAR_OF_CODE } from "../colour/srgb";
import { hexOf, hexOfNumber, labDistance, numberOf } from "../colour/oklab";
import { workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { cielabOf, ciede2000 } from "../colour/ciede2000";
import { countColours, type Counted } from "./colourCount";
import { lightOf, printedLight, type Layer, type Light } from "./model";
import { AmountSolver } from "./solve";

// Thresholds: what they decide is measured by `npm run films`.

/** Colours that stand for the whole picture while inks are tried. */
const SAMPLES = 90;
/** Colours that inks are chosen from, besides white and black. */
const CANDIDATES = 26;
/** Inks nearer to one another than this, in hundredths of OKLab, do the same. */
const APART = 9;

/**
 * Inks for a picture of many tones: of the picture's most saturated, lightest and darkest colours those are taken, one
 * after another, that bring the print nearest to the picture, by mean CIEDE2000; then each is tried once more against the
 * others. Printed pale under dark: on dark cloth white first.
 *
 * @param count    how many, 1 to 10
 * @param opacity  of every ink
 * @returns #rrggbb in print order
 */
export function* proposeInks(picture: Rgba, garment: number, count: number, opacity: number): Work<string[]> {
  const counted = yield* workSlice(countColours(picture, true), 0, 0.2);
  const samples = samplesOf(counted);
  const pool = candidatesOf(counted, garment);
  const error = (inks: readonly string[]): number => errorOf(samples, garment, inks, opacity);
  let chosen: string[] = [];
  for (let k = 0; k < count && chosen.length < pool.length; k++) {
    let [best, least] = ["", Infinity];
    for (const [n, ink] of pool.entries()) {
      yield 0.2 + (0.6 * (k + n / pool.length)) / count;
      if (chosen.includes(ink)) continue;
      const off = error([...chosen, ink]);
      if (off < least) [best, least] = [ink, off];
    }
    chosen.push(best);
  }
  for (const [k, old] of [...chosen].entries()) {
    let [best, least] = [old, error(chosen)];
    for (const [n, ink] of pool.entries()) {
      yield 0.8 + (0.2 * (k + n / pool.length)) / count;
      if (chosen.includes(ink)) continue;
      const tried = chosen.map((c) => (c === old ? ink : c));
      const off = error(tried);
      if (off < least - 0.02) [best, least] = [ink, off];
    }
    chosen = chosen.map((c) => (c === old ? best : c));
  }
  return inPrintOrder(chosen, garment);
}

/** Opaque inks cover: on dark cloth the lightest lies lowest, on pale cloth the lightest too, and dark details on top. */
const inPrintOrder = (inks: readonly string[], garment: number): string[] => {
  const dark = labOfHex(hexOfNumber(garment)).l < 55;
  const lightness = (hex: string): number => labOfHex(hex).l;
  const white = inks.filter((i) => dark && lightness(i) > 90);
  const others = inks.filter((i) => !white.includes(i)).sort((a, b) => lightness(b) - lightness(a));
  return [...white, ...others];
};

interface Sample {
  readonly light: Light;
  readonly lab: ReturnType<typeof cielabOf>;
  readonly weight: number;
}

/** The most frequent colours, no two alike, each with the weight of what is nearest to it. */
function samplesOf(counted: readonly Counted[]): Sample[] {
  const chosen: { of: Counted; weight: number }[] = [];
  for (const c of counted) {
    const near = chosen.find((s) => labDistance(s.of.lab, c.lab) < 5);
    if (near) near.weight += c.count;
    else if (chosen.length < SAMPLES) chosen.push({ of: c, weight: c.count });
  }
  return chosen.map(({ of, weight }) => {
    const light = lightOfCounted(of);
    return { light, lab: cielabOf(...light), weight };
  });
}

const lightOfCounted = ({ red, green, blue }: Counted): Light => [
  LINEAR_OF_CODE[Math.round(red)],
  LINEAR_OF_CODE[Math.round(green)],
  LINEAR_OF_CODE[Math.round(blue)],
];

/** White, black, and colours at the outside of what the picture has: furthest from its middle, no two alike. */
function candidatesOf(counted: readonly Counted[], garment: number): string[] {
  const all = counted.reduce((sum, c) => sum + c.count, 0);
  const usual = counted.filter((c) => c.count > all * 1e-5);
  const list = ["#ffffff", "#000000"].filter(
    (hex) => labDistance(labOfHex(hex), labOfHex(hexOfNumber(garment))) > APART,
  );
  const taken = [...list, hexOfNumber(garment)].map(labOfHex);
  const chosen: string[] = [];
  const apart = new Float64Array(usual.length).fill(Infinity);
  const note = (lab: (typeof taken)[number]): void =>
    usual.forEach((c, k) => (apart[k] = Math.min(apart[k], labDistance(c.lab, lab))));
  taken.forEach(note);
  while (chosen.length < CANDIDATES && usual.length > 0) {
    let at = 0;
    for (let k = 1; k < usual.length; k++) if (apart[k] > apart[at]) at = k;
    if (apart[at] < APART / 2) break;
    const { red, green, blue, lab } = usual[at];
    chosen.push(hexOf(Math.round(red), Math.round(green), Math.round(blue)));
    note(lab);
  }
  return [...list, ...chosen];
}

function errorOf(
  samples: readonly Sample[],
  garment: number,
  inks: readonly string[],
  opacity: number,
): number {
  const layers: Layer[] = inPrintOrder(inks, garment).map((hex) => ({
    light: lightOf(numberOf(hex)),
    opacity,
  }));
  const ground = lightOf(garment);
  const solver = new AmountSolver({ garment: ground, layers });
  const out = new Float64Array(3);
  let [sum, weight] = [0, 0];
  for (const sample of samples) {
    const amounts = new Float64Array(layers.length);
    solver.solve(sample.light, amounts);
    printedLight(ground, layers, amounts, out);
    sum += sample.weight * ciede2000(cielabOf(out[0], out[1], out[2]), sample.lab);
    weight += sample.weight;
  }
  return weight > 0 ? sum / weight : 0;
}
