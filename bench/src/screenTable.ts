import { runToEnd } from "@hardline/core/maths/work";
import { countMarks } from "@hardline/core/raster/bits";
import { newGray } from "@hardline/core/raster/types";
import { screenMask, superCell } from "@hardline/core/screen/cell";
import { type DotShape } from "@hardline/core/screen/dotShapes";
import { markByMask } from "@hardline/core/screen/mask";
import { bitAt } from "@hardline/core/raster/types";
import { strongestWave } from "./spectrum";

export interface Asked {
  readonly dotsPerInch: number;
  readonly linesPerInch: number;
  readonly angle: number;
  readonly dot: DotShape;
  readonly smallestMark?: number;
  readonly smallestGap?: number;
}

export interface Measured {
  /** Greatest difference of the marked share from the grey asked for, over all 256 greys, in percent of area. */
  readonly coverage: number;
  /** Tones that differ, out of 256. */
  readonly tones: number;
  /** In percent of the ruling, and degrees. */
  readonly frequency: number;
  readonly angle: number;
}

/** Rulings, angles and shapes of every kind; the last third set no rule and is only measured. */
export const SCREENS: readonly Asked[] = [
  { dotsPerInch: 720, linesPerInch: 45, angle: 22.5, dot: "ellipse" },
  { dotsPerInch: 720, linesPerInch: 55, angle: 45, dot: "round" },
  { dotsPerInch: 1440, linesPerInch: 65, angle: 15, dot: "diamond" },
  { dotsPerInch: 254, linesPerInch: 45, angle: 45, dot: "round" },
  { dotsPerInch: 254, linesPerInch: 25, angle: 0, dot: "square" },
  { dotsPerInch: 300, linesPerInch: 30, angle: 0, dot: "line" },
  { dotsPerInch: 300, linesPerInch: 60, angle: 75, dot: "ellipse" },
  { dotsPerInch: 600, linesPerInch: 33.3, angle: -30, dot: "round", smallestMark: 3, smallestGap: 2 },
  { dotsPerInch: 720, linesPerInch: 40, angle: 61, dot: "line" },
  { dotsPerInch: 127, linesPerInch: 20, angle: 30, dot: "diamond" },
  { dotsPerInch: 508, linesPerInch: 37.5, angle: 12.3, dot: "square", smallestMark: 2, smallestGap: 2 },
  { dotsPerInch: 720, linesPerInch: 63.7, angle: 67.5, dot: "ellipse", smallestMark: 4 },
  { dotsPerInch: 360, linesPerInch: 85, angle: 37, dot: "round" },
  { dotsPerInch: 1200, linesPerInch: 50, angle: 105, dot: "line" },
  { dotsPerInch: 333, linesPerInch: 28, angle: 171, dot: "ellipse", smallestGap: 3 },
];

const SIDE = 512;
/** The tone whose spectrum is looked at, as grey. */
const SEEN = 160;

export function measure({ smallestMark = 1, smallestGap = 1, ...asked }: Asked): Measured {
  const mask = runToEnd(screenMask({ ...asked, smallestMark, smallestGap }));
  const { dots } = superCell(asked);
  // As many rows and columns as hold the mask whole, so that what is counted is no chance of the edge.
  const [width, height] = [mask.width, mask.height];
  let coverage = 0;
  const shares = new Set<number>();
  for (let g = 0; g <= 255; g++) {
    const gray = newGray(width, height);
    gray.data.fill(g);
    const share = countMarks(runToEnd(markByMask(gray, mask))) / dots;
    shares.add(share);
    coverage = Math.max(coverage, 100 * Math.abs(share - (255 - g) / 255));
  }
  const gray = newGray(SIDE, SIDE);
  gray.data.fill(SEEN);
  const bits = runToEnd(markByMask(gray, mask));
  const values = Float64Array.from({ length: SIDE * SIDE }, (_, i) =>
    bitAt(bits, i % SIDE, Math.floor(i / SIDE)),
  );
  const wanted = asked.linesPerInch / asked.dotsPerInch;
  const peak = strongestWave(values, SIDE, 0.25 / SIDE + wanted / 8, 0.5);
  // Lines run along the angle, so their wave stands across it; of dots, one of the two waves is taken.
  const turn = asked.dot === "line" ? 180 : 90;
  const off = peak.angle - (asked.angle + (asked.dot === "line" ? 90 : 0));
  return {
    coverage,
    tones: shares.size,
    frequency: 100 * Math.abs(peak.frequency / wanted - 1),
    angle: Math.abs(off - turn * Math.round(off / turn)),
  };
}
