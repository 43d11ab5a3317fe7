import { type Check } from "@hardline/core/inspect/check";
import { USUAL_LIMITS } from "@hardline/core/inspect/limits";
import { type Rgba } from "@hardline/core/raster/types";
import { proposedLift, toleranceFor } from "@hardline/core/reading/proposal";
import { readArtwork, type ArtworkReading } from "@hardline/core/reading/reading";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import {
  bellShot,
  boatDrawing,
  buoyShot,
  CREST,
  crestAsJpeg,
  inkDrawing,
  paperShot,
  pixelsOf,
  wheelCrest,
} from "@hardline/demo";
import sharp from "sharp";

/** An artwork of the demo as a person clears it: what is done, and what its cover truly is. */
export interface DemoClear {
  readonly name: string;
  readonly actions: string;
  readonly make: () => Promise<{ readonly jpeg: Buffer; readonly alpha: Uint8Array }>;
  readonly ops: (reading: ArtworkReading) => object[];
}

export interface ClearRow {
  /** Mean error of the cover over the whole picture, in percent. */
  readonly mean: number;
  /** Pixels on the wrong side of a half, in percent. */
  readonly wrong: number;
  /** Pixels kept more than half where nothing of the art is, in percent. */
  readonly left: number;
  readonly checks: readonly Check[];
  readonly result: Rgba;
}

const corner = (reading: ArtworkReading): object => ({
  op: "pick",
  at: [0.03, 0.03],
  tolerance: toleranceFor(reading),
});
const gaps = (reading: ArtworkReading): object => ({ op: "gaps", tolerance: toleranceFor(reading) });
const coverOf = (svg: string, width: number, height: number, blur: number): Promise<Buffer> =>
  sharp(Buffer.from(svg)).resize(width, height).ensureAlpha().extractChannel(3).blur(blur).raw().toBuffer();

export const DEMO_CLEARS: readonly DemoClear[] = [
  { name: "buoy before a pale wall", actions: "pick", make: buoyShot, ops: (r) => [corner(r)] },
  { name: "bell before dark cloth", actions: "pick", make: bellShot, ops: (r) => [corner(r)] },
  {
    name: "boat in ink, kitchen table",
    actions: "lift",
    make: async () => ({ jpeg: await inkDrawing(), alpha: await coverOf(boatDrawing(), 2400, 1800, 1.1) }),
    ops: (r) => [proposedLift(r)],
  },
  {
    name: "pilot crest, JPEG on white",
    actions: "pick, gaps",
    make: async () => ({
      jpeg: await crestAsJpeg(),
      alpha: await coverOf(wheelCrest(), CREST.width, CREST.height, 0.3),
    }),
    ops: (r) => [corner(r), gaps(r)],
  },
  {
    name: "puffin in watercolour on paper",
    actions: "pick, gaps",
    make: paperShot,
    ops: (r) => [corner(r), gaps(r)],
  },
];

/** Clears an artwork of the demo and measures how far its cover is from the truth. */
export async function measureClear({ make, ops }: DemoClear): Promise<ClearRow> {
  const { jpeg, alpha } = await make();
  const colour = await pixelsOf(jpeg);
  const { width, height } = colour;
  const facts = { sha256: "", width, height, vector: false };
  const stage = { stage: "clear", specksMm2: 0.05, ops: ops(readArtwork(colour, facts)) };
  const checks = { ...USUAL_LIMITS, strayMm2: 0.05 };
  const route = readRoute({ format: "hard-line-route", version: 1, name: "x", checks, stages: [stage] });
  const source = { facts, pixels: async () => colour };
  const runner = new Runner();
  const result = as((await runner.run(route, source))[1].result, "picture");
  const [, found] = await runner.inspect(route, source);
  let [off, wrong, left] = [0, 0, 0];
  alpha.forEach((truth, i) => {
    const is = result.colour.data[i * 4 + 3];
    off += Math.abs(is - truth) / 255;
    if (Math.abs(is - truth) > 127) wrong++;
    if (truth === 0 && is > 127) left++;
  });
  const percent = (v: number): number => (100 * v) / alpha.length;
  return {
    mean: percent(off),
    wrong: percent(wrong),
    left: percent(left),
    checks: found.checks,
    result: result.colour,
  };
}
