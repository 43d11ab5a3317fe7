import { type Rgba } from "@hardline/core/raster/types";
import { deliver } from "@hardline/core/route/deliver";
import { planOf } from "@hardline/core/route/plan";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type ArtworkSource } from "@hardline/core/route/source";
import { setImmediate as nextTurn } from "node:timers/promises";
import { flatLogoLike, inColour, leavesLike, lineArtLike, photographLike } from "./pictures";

/*
 * `npm run portions [word]`: all routes, or those with a word in their name.
 *
 * How soon a running computation can be stopped: the longest stretch between two slices, of everything that a route
 * does to a picture of 16 megapixels (paths: of 4.3), its checks and files among it. Asked: 50 ms; the median of three runs counts,
 * because a machine that does something else for a moment is no slice.
 */
const ASKED = 50;
const LINE_ART_MM = 180;

const photograph = inColour(photographLike());
const logo = flatLogoLike();
const PICK = { op: "pick", at: [0.002, 0.002], tolerance: 11 };
const cross = (from: number, to: number) => ({
  points: [
    [from, from],
    [to, to],
  ],
  sizeMm: 6,
});
const CUT_OUT = { op: "cutOut", keep: [cross(0.45, 0.55)], away: [cross(0.02, 0.1), cross(0.9, 0.98)] };
const PATH = { op: "path", kind: "round", box: [0.1, 0.1, 0.8, 0.8] };
const BRUSH = { op: "brush", paints: "away", strokes: [{ ...cross(0.1, 0.9), sizeMm: 200, softness: 1 }] };

const STROKES = { method: "line", local: { windowMm: 6, k: 0.2 }, cleanMm: 0.5, edgeMm: 0.2 };
const GATHERED = { method: "screen", linesPerInch: 30, smallestMark: 2, smallestGap: 3 };

const WHITE = { name: "white", colour: "#ffffff", role: "underbase", spreadMm: -0.3 };
const RULED = { linesPerInch: 45, angle: 22.5, dot: "ellipse" };
const TONAL = [
  WHITE,
  ...["#c8102e", "#2f7fc1"].map((colour) => ({ name: colour.slice(1), colour, screen: RULED })),
];
const FLAT = [WHITE, { name: "navy", colour: "#203e66" }];

const lineArt = lineArtLike();
const leaves = leavesLike();
const atSize = { stage: "size", widthMm: LINE_ART_MM };
const trace = (settings: object) => [atSize, { stage: "trace", smallestMm2: 0, ...settings }];
const cutLine = (settings: object) => [atSize, { stage: "cutLine", ...settings }];
const corners = [
  [0.1, 0.1],
  [0.85, 0.15],
  [0.8, 0.85],
  [0.15, 0.8],
];
const DRAWN_OVER = { edit: "draw", knots: corners.map((at) => ({ at })), closed: true, over: "subtract" };

const JOBS: [string, Rgba, object[]][] = [
  ["size, larger", photograph, [{ stage: "size", widthMm: 450 }]],
  ["size, smaller, round", photograph, [{ stage: "size", widthMm: 300, shape: { kind: "round" } }]],
  ["clear, pick and gaps", logo, [{ stage: "clear", specksMm2: 0.05, ops: [PICK, { op: "gaps" }] }]],
  ["clear, lift in uneven light", logo, [{ stage: "clear", ops: [{ op: "lift", light: "uneven" }] }]],
  ["clear, cut-out", photograph, [{ stage: "clear", specksMm2: 0.05, ops: [CUT_OUT] }]],
  [
    "clear, shape, brush, edge",
    photograph,
    [{ stage: "clear", edgeMm: -0.4, featherMm: 1, ops: [PATH, BRUSH] }],
  ],
  ["tone, sharpened", photograph, [{ stage: "tone", black: 0.1, sharpen: { amount: 1, radiusMm: 0.4 } }]],
  ["line, auto", photograph, [{ stage: "blackWhite", method: "line", threshold: "auto" }]],
  ["scatter", photograph, [{ stage: "blackWhite", kernel: "jarvis-judice-ninke" }]],
  ["scatter, squares, held", photograph, [{ stage: "blackWhite", smallestMark: 3, holdHighlight: 4 }]],
  ["line, local, cleaned, wider", photograph, [{ stage: "blackWhite", ...STROKES }]],
  ["screen", photograph, [{ stage: "blackWhite", method: "screen", linesPerInch: 30 }]],
  ["screen, gathered", photograph, [{ stage: "blackWhite", ...GATHERED }]],
  ["films, tonal, white choked", photograph, [{ stage: "films", separate: "tonal", inks: TONAL }]],
  ["films, flat, trapped", logo, [{ stage: "films", garment: "#1a2340", inks: FLAT, trapMm: 0.2 }]],
  ["transfer, edges in dots", logo, [{ stage: "transfer", edges: "dots", knockOut: { tolerance: 4 } }]],
  ["transfer, hard edges", leaves, [atSize, { stage: "transfer" }]],
  ["trace, hatching", lineArt, trace({})],
  ["trace, hatching, smoothed", lineArt, trace({ smoothMm: 0.3 })],
  ["trace, lines along strokes", lineArt, trace({ centreMm: 1 })],
  ["trace, four tones, trapped", lineArt, trace({ tones: 4, trapMm: 0.1 })],
  ["trace, drawn over", lineArt, trace({ edits: [DRAWN_OVER] })],
  ["cut line round leaves", leaves, cutLine({ offsetMm: 1, smoothMm: 0.8, tab: {}, print: { byMm: 1 } })],
  ["cut line, bridged, in", leaves, cutLine({ offsetMm: -0.1, smoothMm: 0.2, parts: { bridgeMm: 2 } })],
  [
    "cut line on a trace",
    lineArt,
    [...trace({}), { stage: "cutLine", from: "trace", offsetMm: 0.3, smoothMm: 0.1 }],
  ],
];

async function longestOf(picture: Rgba, stages: object[]): Promise<{ longest: number; doing: string }> {
  const facts = { sha256: "x", width: picture.width, height: picture.height, vector: false };
  const source: ArtworkSource = { facts, pixels: async () => picture };
  const route = readRoute({ format: "hard-line-route", version: 1, name: "x", stages });
  let [last, longest, doing, at] = [performance.now(), 0, "", "size"];
  const pause = async (): Promise<void> => {
    const stretch = performance.now() - last;
    if (stretch > longest) [longest, doing] = [stretch, at];
    await nextTurn();
    last = performance.now();
  };
  planOf(route, facts);
  last = performance.now();
  await deliver(new Runner({ pause }), route, source, {
    pause,
    progress: (share, stage) => (at = `${stage} ${Math.round(share * 100)} %`),
    file: async () => {
      last = performance.now();
    },
  });
  return { longest, doing };
}

async function main(): Promise<void> {
  const asked = JOBS.filter(([name]) => name.includes(process.argv[2] ?? ""));
  console.log("| a route of 16 megapixels | longest slice, ms | where |\n| --- | ---: | --- |");
  let missed = 0;
  for (const [name, picture, stages] of asked) {
    const runs = [];
    for (let k = 0; k < 3; k++) runs.push(await longestOf(picture, stages));
    const { longest, doing } = runs.sort((a, b) => a.longest - b.longest)[runs.length >> 1];
    if (longest > ASKED) missed++;
    console.log(`| ${name} | ${longest.toFixed(0)} | ${doing} |`);
  }
  if (missed) console.error(`${missed} of ${asked.length} over ${ASKED} ms`);
  process.exitCode = missed ? 1 : 0;
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
