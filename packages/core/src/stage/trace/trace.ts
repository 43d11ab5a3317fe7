import { numberOf } from "../../colour/oklab";
import { drawingTurned, drawnOn } from "../../drawing/overArtwork";
import { editsTurned, fontsOf } from "../../edit/operations";
import { withEdits } from "../../edit/withEdits";
import { pathFiles } from "../../format/pathFormats";
import { figure } from "../../inspect/check";
import { dotsPerMm } from "../../maths/units";
import { workSlice, type Work } from "../../maths/work";
import { boxWith, pathSetOf, type PathSet } from "../../path/pathSet";
import { unpackRow } from "../../raster/bits";
import { newGray, type Gray } from "../../raster/types";
import { type Paths, type Picture, type Plates, type Tone } from "../../result/result";
import { colourTones, greyTones } from "../../trace/tones/values";
import { type Placement } from "../../result/finish";
import { RouteError } from "../../settings/errors";
import { type FurtherTurn } from "../../turn/further";
import { inspectBy } from "../checks";
import { defineStage, type Context } from "../stage";
import { onWhite, plainTone } from "../tone/plainTone";
import { sketchBlack, traceBlack, type Scale, type Traced } from "./black";
import { TRACE_CHECKS } from "./checks";
import { traceSettings, type TracePass, type TraceSettings } from "./settings";
import { traceTones } from "./toned";

/** Of dots, an outline steps by whole ones; closer than this it would follow the steps. */
const STEPS = 0.75;
/** An enlarged edge runs in waves, this much of a pixel of the source high; closer, an outline would follow the waves. */
const WAVES = 0.3;
/** An edge is so many pixels of the source wide at most, and one more where it lies askew. */
const EDGE = 2;

/** Outlines of what is dark, or of every tone, as few straight lines and curves as stay within a tolerance. */
export const trace = defineStage({
  id: "trace",
  title: "Trace",
  settings: traceSettings,
  takes: ({ from, tones }: TraceSettings) => ({
    tone:
      from === "blackWhite"
        ? (["plates"] as const)
        : Array.isArray(tones)
          ? (["picture"] as const)
          : (["tone", "picture"] as const),
  }),
  gives: "paths",
  fonts: ({ edits }) => fontsOf(edits),
  turnedOn: (settings, by) => ({
    ...settings,
    ...(settings.drawing && { drawing: turnedDrawing(settings.drawing, by) }),
    edits: editsTurned(settings.edits, by),
  }),
  admit({ from, drawing }) {
    if (from === "drawing" && !drawing)
      throw new RouteError("trace", "drawing", drawing, "paths of a drawing, where from is drawing");
  },
  run: traced,
  *draft(taken, settings, context): Work<Paths> {
    const { from, tones, centreMm, thin, edits } = settings;
    if (from === "drawing" || tones !== 1 || centreMm > 0 || thin > 0 || edits.length > 0)
      return yield* traced(taken, settings, context);
    const { finish, frame } = taken.tone;
    const set = yield* sketched(taken.tone, settings, context.keep);
    return { kind: "paths", finish, frame, sets: inPasses([set], settings.passes) };
  },
  *inspect(paths, _taken, { edits, from }, limits) {
    return yield* inspectBy(TRACE_CHECKS, { ...paths, edits, from, limits });
  },
  limits: ["neckMm"],
  readings: {
    paths: { label: "Outlines" },
    segments: { label: "Lines and curves" },
    specksDropped: { label: "Specks dropped" },
    pinholesDropped: { label: "Pinholes dropped" },
    thinnestLine: { label: "Thinnest stroke", unit: "mm", decimals: 2 },
    widestLine: { label: "Widest stroke", unit: "mm", decimals: 2 },
  },
  delivers: "traced outlines",
  async *files({ sets, finish }, _settings, doing) {
    const box = boxWith(sets, finish.widthMm, finish.heightMm);
    yield* pathFiles("trace", sets, box, doing);
    if (sets.length < 2 && !sets[0].pass) return;
    // Each pass alone as well, so that it can be run again.
    for (const set of sets)
      yield* pathFiles(`trace-${fileName(set.pass?.name ?? set.name)}`, [set], box, doing);
  },
  summary: ({ from, drawing, threshold, toleranceMm, smallestMm2, tones, centreMm, thin }) => {
    if (from === "drawing") return `its own paths, ${drawing?.sets.length ?? 0} sets`;
    return [
      Array.isArray(tones)
        ? `${tones.length} colours`
        : tones > 1
          ? `${tones} tones`
          : from === "tone"
            ? `at ${threshold}`
            : "from the dots",
      `within ${figure(toleranceMm, 3)} mm`,
      ...(smallestMm2 > 0 ? [`from ${figure(smallestMm2, 2)} mm²`] : []),
      ...(thin > 0 ? ["thin strokes too"] : []),
      ...(centreMm > 0 ? [`strokes to ${figure(centreMm, 2)} mm as lines`] : []),
    ].join(", ");
  },
});

/** The first look's outlines; what it asks of the picture, and they themselves while only their fit changes, are kept. */
function* sketched(tone: Taken["tone"], settings: TraceSettings, keep: Context["keep"]): Work<PathSet> {
  let gray = keep.get<Gray>("dark");
  if (!gray) {
    gray = yield* workSlice(darkOf(tone), 0, 0.3);
    keep.set("dark", gray, gray.data.length);
  }
  const { threshold, smallestMm2, smallestHoleMm2 } = settings;
  const of = JSON.stringify([threshold, smallestMm2, smallestHoleMm2]);
  const last = keep.get<{ of: string; set: PathSet }>("sketch");
  if (last?.of === of) return last.set;
  const set = yield* workSlice(sketchBlack(gray, settings, dotsPerMm(tone.finish)), 0.3, 1);
  keep.set("sketch", { of, set }, set.points.byteLength);
  return set;
}

interface Taken {
  readonly tone: Tone | Picture | Plates;
}

function* traced(
  { tone }: Taken,
  settings: TraceSettings,
  { facts, keep }: Pick<Context, "facts" | "keep">,
): Work<Paths> {
  const { finish, frame } = tone;
  const perMm = dotsPerMm(finish);
  const enlarged = Math.max(1, finish.widthPx / (facts.width * frame.width));
  const waves = facts.vector || enlarged === 1 ? 0 : WAVES * enlarged;
  const tolerance = Math.max(settings.toleranceMm * perMm, tone.kind === "plates" ? STEPS : waves);
  const scale: Scale = {
    perMm,
    tolerance,
    edge: Math.ceil(EDGE * enlarged) + 1,
    enlarged: facts.vector ? 1 : enlarged,
  };
  // A hand's edits stand on the outlines, which stay while only they change.
  const { edits, passes, ...outlines } = settings;
  const name = `traced ${JSON.stringify(outlines)}`;
  const known = keep.get<Traced>(name);
  const own = settings.from === "drawing" ? drawnSets(settings, tone) : null;
  const found = own ?? known ?? (yield* workSlice(shapesOf(tone, settings, scale), 0, 0.9));
  const bytes = found.sets.reduce((sum, s) => sum + s.points.byteLength, 0);
  if (!known && !own) keep.set(name, found, bytes);
  const edited = yield* workSlice(withEdits(found.sets, edits, { finish, frame }), 0.9, 1);
  const sets = inPasses(edited.sets, passes);
  return {
    kind: "paths",
    finish,
    frame,
    dropped: found.dropped,
    sets,
    missed: edited.missed,
    texts: edited.texts,
  };
}

/** The paths that a drawing has of its own, as sets. */
function drawnSets({ drawing }: TraceSettings, place: Pick<Placement, "finish" | "frame">): Traced {
  const sets = (drawing?.sets ?? []).map(({ name, colour, use, d }) =>
    pathSetOf({ name, use, colour: numberOf(colour) }, drawnOn(d, drawing!, place)),
  );
  return { sets, dropped: { specks: 0, pinholes: 0 } };
}

function turnedDrawing(drawing: NonNullable<TraceSettings["drawing"]>, by: FurtherTurn) {
  const { size, turned } = drawingTurned(drawing, by);
  return { sets: drawing.sets.map((set) => ({ ...set, d: turned(set.d) })), ...size };
}

function* shapesOf(taken: Tone | Picture | Plates, settings: TraceSettings, scale: Scale) {
  const { tones } = settings;
  if (Array.isArray(tones) && taken.kind === "picture") {
    const colours = tones.map((c) => numberOf(c));
    const parted = yield* workSlice(colourTones(taken.colour, colours), 0, 0.1);
    return yield* workSlice(traceTones(parted, settings, scale), 0.1, 1);
  }
  const gray = yield* workSlice(darkOf(taken), 0, 0.1);
  if (typeof tones === "number" && tones > 1) {
    const parted = yield* workSlice(greyTones(gray, tones), 0.1, 0.15);
    return yield* workSlice(traceTones(parted, settings, scale), 0.15, 1);
  }
  return yield* workSlice(traceBlack(gray, settings, scale), 0.1, 1);
}

/** Sets with how they are run, in the order in which they are. */
function inPasses(sets: readonly PathSet[], passes: readonly TracePass[]): PathSet[] {
  const passOf = (set: PathSet) => passes.find((p) => p.set === set.name);
  const run = sets.map((set): PathSet => {
    const pass = passOf(set);
    if (!pass) return set;
    const { name, use, power, speed } = pass;
    return { ...set, use, pass: { name, power, speed } };
  });
  const order = (set: PathSet) => passOf(set)?.order ?? 0;
  return run.sort((a, b) => order(a) - order(b));
}

/** A name that every system takes. */
const fileName = (name: string): string => name.trim().replace(/\s+/g, "-");

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
  const toned = taken.kind === "tone" ? taken : yield* workSlice(plainTone(taken), 0, 0.5);
  return yield* workSlice(onWhite(toned), 0.5, 1);
}
