import { type PathSet, type PathUse } from "../path/pathSet";
import { type Bits } from "../raster/types";
import { type Result } from "../result/result";

/** What is to be run on a machine, in mm from the top left of the piece, or the sheet. */
export interface Job {
  readonly name: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly bitmaps: readonly { readonly name: string; readonly bits: Bits; readonly dotsPerInch: number }[];
  readonly sets: readonly PathSet[];
}

/** Passes are run in this order: marks first, then what is only lightly run, and through everything at the end. */
const ORDER: readonly PathUse[] = ["score", "kiss", "through"];

/** The sets that a machine follows, in their order; as they were given where it is the same. */
export const runOrder = (sets: readonly PathSet[]): PathSet[] =>
  sets
    .filter((set) => set.closed.length > 0 && ORDER.includes(set.use))
    .map((set, given) => ({ set, given }))
    .sort((a, b) => ORDER.indexOf(a.set.use) - ORDER.indexOf(b.set.use) || a.given - b.given)
    .map(({ set }) => set);

/** What a set is run as: its pass, or by its own name. */
export const passName = ({ pass, name }: PathSet): string => pass?.name ?? name;

/** What the results of a route give a machine to do: its dots, and the lines that it follows. */
export function jobOf(name: string, results: readonly Result[]): Pick<Job, "name" | "bitmaps" | "sets"> {
  const bitmaps: Job["bitmaps"][number][] = [];
  const sets: PathSet[] = [];
  for (const result of results) {
    if (result.kind === "plates") {
      for (const { name: plate, bits } of result.plates) {
        const { dotsPerInch, widthPx } = result.finish;
        bitmaps.push({ name: plate, bits, dotsPerInch: (dotsPerInch * bits.width) / widthPx });
      }
    } else if (result.kind === "paths") sets.push(...result.sets);
  }
  return { name, bitmaps, sets };
}

/** Names that dots and lines of a job may be run by, in their order. */
export const passNames = (job: Job): string[] => [
  ...job.bitmaps.map((b) => b.name),
  ...runOrder(job.sets).map(passName),
];
