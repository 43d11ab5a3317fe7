import { z } from "zod";
import { writePathsSvg } from "../../format/svg";
import { checkFrame } from "../../inspect/frame";
import { figure } from "../../inspect/check";
import { dotsPerMm } from "../../maths/units";
import { portion, type Work } from "../../maths/work";
import { unpackRow } from "../../raster/bits";
import { newGray, type Gray } from "../../raster/types";
import { type KnotPath, pathSetOf } from "../../path/pathSet";
import { type Paths, type Picture, type Plates, type Tone } from "../../result/result";
import { otsuThreshold } from "../../screen/threshold";
import { fitClosed } from "../../trace/fit";
import { outlinesOf } from "../../trace/outlines";
import { largeEnough } from "../../trace/shapes";
import { defineStage } from "../stage";
import { onWhite, plainTone } from "../tone/plainTone";

const isThreshold = (value: unknown): boolean =>
  value === "auto" || (Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 255);
const area = z.number().min(0).max(10000);

export const traceSettings = z.strictObject({
  from: z.enum(["tone", "blackWhite"]).default("tone"),
  threshold: z
    .custom<"auto" | number>(isThreshold, { error: '"auto" or a whole number 1 to 255' })
    .default(128),
  toleranceMm: z.number().min(0.001).max(5).default(0.05),
  smallestMm2: area.default(0.1),
  smallestHoleMm2: area.default(0.1),
  corners: z.number().min(0).max(1).default(0.5),
});
export type TraceSettings = z.output<typeof traceSettings>;

/** Of dots, an outline steps by whole ones; closer than this it would follow the steps. */
const STEPS = 0.75;
/** An enlarged edge runs in waves, this much of a pixel of the source high; closer, an outline would follow the waves. */
const WAVES = 0.3;
const INK = 0x15181d;

/** Outlines of what is dark, as few straight lines and curves as stay within a tolerance. */
export const trace = defineStage({
  id: "trace",
  title: "Trace",
  settings: traceSettings,
  takes: ({ from }: TraceSettings) =>
    from === "tone" ? ({ tone: ["tone", "picture"] } as const) : ({ tone: ["plates"] } as const),
  gives: "paths",
  *run({ tone }: { readonly tone: Tone | Picture | Plates }, settings, { facts }): Work<Paths> {
    const { finish, frame } = tone;
    const gray = yield* portion(darkOf(tone), 0, 0.1);
    const threshold =
      settings.threshold === "auto"
        ? yield* portion(otsuThreshold(gray, null), 0.1, 0.12)
        : settings.threshold;
    const outlines = yield* portion(outlinesOf(gray, threshold), 0.12, 0.3);
    const perMm = dotsPerMm(finish);
    const enlarged = finish.widthPx / (facts.width * frame.width);
    const least = tone.kind === "plates" ? STEPS : enlarged > 1 ? WAVES * enlarged : 0;
    const tolerance = Math.max(settings.toleranceMm * perMm, least);
    const [shape, hole] = [settings.smallestMm2, settings.smallestHoleMm2].map((a) => a * perMm * perMm);
    const { kept, specks, pinholes } = largeEnough(outlines, shape, hole);
    const paths: KnotPath[] = [];
    for (const [done, k] of kept.entries()) {
      yield 0.3 + (0.7 * done) / kept.length;
      const points = outlines.points.subarray(2 * outlines.starts[k], 2 * outlines.starts[k + 1]);
      const share = 0.7 / kept.length;
      const fitting = fitClosed(points, { tolerance, corners: settings.corners });
      const knots = yield* portion(fitting, 0.3 + share * done, 0.3 + share * (done + 1));
      const mm = (p: readonly [number, number]): [number, number] => [p[0] / perMm, p[1] / perMm];
      paths.push({
        closed: true,
        knots: knots.map((knot) => ({
          at: mm(knot.at),
          ...(knot.in ? { in: mm(knot.in) } : {}),
          ...(knot.out ? { out: mm(knot.out) } : {}),
        })),
      });
    }
    const set = pathSetOf({ name: "trace", use: "fill", colour: INK }, paths);
    return { kind: "paths", finish, frame, sets: [set], dropped: { specks, pinholes } };
  },
  *inspect({ sets: [set], finish, dropped }) {
    const segments = (set.points.length / 2 - set.closed.length) / 3;
    return {
      readings: {
        paths: set.closed.length,
        segments,
        specksDropped: dropped?.specks ?? 0,
        pinholesDropped: dropped?.pinholes ?? 0,
      },
      checks: [checkFrame(set, finish)],
    };
  },
  readings: {
    paths: { label: "Outlines" },
    segments: { label: "Lines and curves" },
    specksDropped: { label: "Specks dropped" },
    pinholesDropped: { label: "Pinholes dropped" },
  },
  delivers: "traced outlines",
  async *files({ sets, finish }) {
    const bytes = writePathsSvg(sets, finish.widthMm, finish.heightMm);
    yield { name: "trace.svg", mediaType: "image/svg+xml", bytes };
  },
  summary: ({ from, threshold, toleranceMm, smallestMm2 }) =>
    `${from === "tone" ? `at ${threshold}` : "from the dots"}, within ${figure(toleranceMm, 3)} mm` +
    (smallestMm2 > 0 ? `, from ${figure(smallestMm2, 2)} mm²` : ""),
});

/** Grey of what is traced, white where there is no art. */
function* darkOf(taken: Tone | Picture | Plates): Work<Gray> {
  if (taken.kind === "plates") {
    const [{ bits }] = taken.plates;
    const gray = newGray(bits.width, bits.height);
    for (let y = 0; y < bits.height; y++) {
      if (y % 256 === 0) yield y / bits.height;
      const row = gray.data.subarray(y * bits.width, (y + 1) * bits.width);
      unpackRow(bits, y, row);
      for (let x = 0; x < row.length; x++) row[x] = 255 * (1 - row[x]);
    }
    return gray;
  }
  const toned = taken.kind === "tone" ? taken : yield* portion(plainTone(taken), 0, 0.5);
  return yield* portion(onWhite(toned), 0.5, 1);
}
