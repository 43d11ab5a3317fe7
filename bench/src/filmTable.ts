import { codesOf, labDistance, oklabOf } from "@hardline/core/colour/oklab";
import { cielabOf, ciede2000 } from "@hardline/core/colour/ciede2000";
import { lightOf } from "@hardline/core/film/model";
import { proofOf } from "@hardline/core/film/seen";
import { runToEnd } from "@hardline/core/maths/work";
import { countMarks } from "@hardline/core/raster/bits";
import { bitAt, type Rgba } from "@hardline/core/raster/types";
import { type Plates } from "@hardline/core/result/result";
import { planOf } from "@hardline/core/route/plan";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type ArtworkSource } from "@hardline/core/route/source";
import { type DotShape } from "@hardline/core/screen/dotShapes";
import { type FilmPicture, type FlatDrawing } from "@hardline/demo";
import { strongestWave } from "./spectrum";

export interface FilmRow {
  /** Mean difference of plates from the known, in percent of full; over all plates. */
  readonly plates: number;
  /** Marks where nothing is. */
  readonly haze: number;
  /** Mean CIEDE2000 of the predicted print against the known one. */
  readonly print: number;
  /** Greatest difference of a film's marked share from its tone's mean, in percent of area. */
  readonly coverage: number;
}

/** Runs a route of one stage on a picture. */
export async function filmsOf(picture: Rgba, settings: object): Promise<Plates> {
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "Films",
    stages: [{ stage: "films", ...settings }],
  });
  const { width, height } = picture;
  const facts = { sha256: "0", width, height, vector: false };
  const source: ArtworkSource = { facts, pixels: async () => picture };
  const plan = planOf(route, facts);
  const { result } = await new Runner().result(plan, source, plan.steps[plan.steps.length - 1]);
  return result as Plates;
}

/** Separates a picture with its own inks and compares with what it was made of. */
export async function measureFilms({
  kind,
  noisy,
  picture,
  garment,
  inks,
  seen,
  print,
}: FilmPicture): Promise<FilmRow> {
  const result = await filmsOf(picture, {
    separate: kind,
    garment,
    inks,
    ...(kind === "tonal" && noisy ? { knockOut: { tolerance: 2, softness: 2 } } : {}),
  });
  const { tones } = result.print!;
  const count = picture.width * picture.height;
  let [off, haze] = [0, 0];
  for (let i = 0; i < count; i++) {
    let left = 1;
    for (let k = inks.length - 1; k >= 0; k--) {
      const amount = (255 - tones[k].data[i]) / 255;
      off += Math.abs((kind === "flat" ? amount : amount * left) - seen[k][i]);
      if (inks[k].opacity === 1) left *= 1 - amount;
    }
    if (isBareAbout(seen, i, picture.width))
      for (const { bits } of result.plates)
        haze +=
          (bits.data[Math.floor(i / bits.width) * bits.stride + ((i % bits.width) >> 3)] >>
            (7 - ((i % bits.width) & 7))) &
          1;
  }
  let coverage = 0;
  for (const [k, { bits }] of result.plates.entries()) {
    let sum = 0;
    for (const grey of tones[k].data) sum += kind === "flat" ? (grey < 128 ? 1 : 0) : (255 - grey) / 255;
    coverage = Math.max(coverage, Math.abs(countMarks(bits) - sum) / count);
  }
  return {
    plates: (100 * off) / count / inks.length,
    haze,
    print: meanDifference(runToEnd(proofOf(result)), print),
    coverage: 100 * coverage,
  };
}

/** A film at its printer's resolution, by Fourier transform of an even tone: off in percent, degrees and percent of area. */
export async function measureRuling(linesPerInch: number, angle: number, dot: DotShape, printer: number) {
  const [side, grey] = [400, 150];
  const data = new Uint8Array(4 * side * side).fill(grey);
  for (let o = 3; o < data.length; o += 4) data[o] = 255;
  const size = { dotsPerInch: 254, printerDotsPerInch: printer };
  const ink = { name: "black", colour: "#000000", screen: { linesPerInch, angle, dot } };
  const { plates, print } = await filmsOf(
    { width: side, height: side, data },
    {
      separate: "tonal",
      inks: [ink],
      printerDotsPerInch: size.printerDotsPerInch,
    },
  );
  const { bits } = plates[0];
  const SIDE = 512;
  const values = Float64Array.from({ length: SIDE * SIDE }, (_, i) =>
    bitAt(bits, i % SIDE, Math.floor(i / SIDE)),
  );
  const wanted = linesPerInch / printer;
  const peak = strongestWave(values, SIDE, 0.25 / SIDE + wanted / 8, 0.5);
  const turn = dot === "line" ? 180 : 90;
  const off = peak.angle - (angle + (dot === "line" ? 90 : 0));
  return {
    ruling: 100 * Math.abs(peak.frequency / wanted - 1),
    angle: Math.abs(off - turn * Math.round(off / turn)),
    coverage:
      100 * Math.abs(countMarks(bits) / bits.width / bits.height - (255 - print!.tones[0].data[0]) / 255),
  };
}

/** Nothing is printed here, nor beside. */
function isBareAbout(seen: readonly Float64Array[], i: number, width: number): boolean {
  for (const by of [0, 1, -1, 2, -2, width, -width, 2 * width, -2 * width])
    if (seen.some((s) => (s[i + by] ?? 0) > 0)) return false;
  return true;
}

export function meanDifference(one: Rgba, other: Rgba): number {
  let [sum, n] = [0, 0];
  const at = (p: Rgba, i: number) => {
    const o = 4 * i;
    return cielabOf(...lightOf((p.data[o] << 16) | (p.data[o + 1] << 8) | p.data[o + 2]));
  };
  for (let i = 0; i < one.width * one.height; i += 3, n++) sum += ciede2000(at(one, i), at(other, i));
  return sum / n;
}

export interface InksRow {
  /** As many inks as were drawn, each near one of them. */
  readonly right: boolean;
  readonly found: readonly string[];
  /** For each ink drawn, by how much its area is off with the inks given, in percent of it. */
  readonly areas: readonly number[];
}

/** Inks nearer than this to one that was drawn, in hundredths of OKLab, are that one. */
const SAME = 8;

/** What is found of a drawing's inks, and how large their areas come out when they are given. */
export async function measureInks({ picture, inks }: FlatDrawing): Promise<InksRow> {
  const found = (await filmsOf(picture, { separate: "flat", inks: "auto" })).print!.chosen.map(
    (i) => i.colour,
  );
  const near = (a: string, b: string): boolean =>
    labDistance(oklabOf(...codesOf(a)), oklabOf(...codesOf(b))) < SAME;
  const isDark = (hex: string): boolean => Math.max(...codesOf(hex)) < 60;
  const same = (a: string, b: string): boolean => near(a, b) || (isDark(a) && isDark(b));
  const drawn = inks.map((i) => i.colour);
  const right = found.length === drawn.length && drawn.every((d) => found.some((f) => same(d, f)));
  const given = inks.map(({ colour }, k) => ({ name: `ink ${k + 1}`, colour }));
  const { tones } = (await filmsOf(picture, { separate: "flat", inks: given })).print!;
  const areas = inks.map(({ area }, k) => {
    const own = tones[k].data.reduce((sum, grey) => sum + (255 - grey) / 255, 0);
    return area > 0 ? (100 * (own - area)) / area : 0;
  });
  return { right, found, areas };
}
