import { runToEnd } from "@hardline/core/maths/work";
import { squaredDistanceTo } from "@hardline/core/region/distance";
import { as } from "@hardline/core/result/result";
import { planOf } from "@hardline/core/route/plan";
import { draftOf } from "@hardline/core/route/draft";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type Rgba } from "@hardline/core/raster/types";
import { closedGap, colouredDrawing, type ColouredDrawing } from "./coloured";

/*
 * Line drawings whose coloured original is known: every area is clicked once, as a person would, and what comes of it is held
 * against the original. A third set no rule. Then how soon a click is answered at 16 megapixels.
 *
 * Usage: npm run colours [-- HOW_MANY]
 */

const COUNT = Number(process.argv[2] ?? 30);
/** Dots to the millimetre of the drawings. */
const PER_MM = 10;
/** Asked. */
const ASKED = { seam: 4, right: 0.98 };

interface Row {
  readonly drawing: ColouredDrawing;
  readonly areas: number;
  /** Areas that took the colour of another. */
  readonly leaks: number;
  /** Share of the pixels that are no line which have the colour of the original. */
  readonly right: number;
  /** Of those at lines, away from gaps: how far off the original a pixel is at worst. */
  readonly seam: number;
}

/** An area smaller than this, in pixels, is clicked by nobody. */
const CLICKED = 60;
/** A click keeps so far off a line, where it can. */
const OFF_LINE = 3;

async function measured(drawing: ColouredDrawing): Promise<Row> {
  const { lines, area, colours, gap } = drawing;
  const { width, height } = lines;
  const off = runToEnd(squaredDistanceTo(lineMask(drawing), width, height));
  // A person clicks well inside: the widest place of each area.
  const at = new Map<number, number>();
  const size = new Map<number, number>();
  for (let i = 0; i < area.length; i++) {
    if (off[i] === 0 || area[i] < 0) continue;
    size.set(area[i], (size.get(area[i]) ?? 0) + 1);
    const known = at.get(area[i]);
    if (known === undefined || off[i] > off[known]) at.set(area[i], i);
  }
  // Of what is no wider than the gaps that are closed it cannot be said whether it is an area or a gap.
  const least = Math.max(OFF_LINE, closedGap(gap)) ** 2;
  const clicked = [...at].filter(([a, i]) => size.get(a)! >= CLICKED && off[i] >= least);
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Coloured" },
    stages: [
      { stage: "size", dotsPerInch: 25.4 * PER_MM, resample: "none" },
      {
        stage: "colour",
        gapMm: closedGap(gap) / PER_MM,
        areas: clicked.map(([a, i]) => ({
          at: [((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height],
          colour: colours[a],
        })),
      },
    ],
  });
  const facts = { sha256: "", width, height, vector: false };
  const results = await new Runner().run(route, { facts, pixels: async () => lines });
  const made = as(results[2].result, "picture");
  return { drawing, ...compared(drawing, made.colour, new Set(clicked.map(([a]) => a)), off) };
}

/** Pixels that have any line. */
function lineMask({ lines, onPaper }: ColouredDrawing): Uint8Array {
  const mask = new Uint8Array(lines.width * lines.height);
  for (let i = 0; i < mask.length; i++)
    mask[i] = (onPaper ? 255 - lines.data[4 * i] : lines.data[4 * i + 3]) > 0 ? 1 : 0;
  return mask;
}

function compared(drawing: ColouredDrawing, made: Rgba, clicked: ReadonlySet<number>, off: Int32Array) {
  const { original, area, gaps, gap, wide } = drawing;
  const { width } = made;
  let [right, all, seam] = [0, 0, 0];
  const wrong = new Map<number, number>();
  const whole = new Map<number, number>();
  for (let i = 0; i < area.length; i++) {
    if (area[i] >= 0 && !clicked.has(area[i])) continue;
    const [x, y] = [i % width, Math.floor(i / width)];
    // In a gap the two colours meet where they may.
    if (gaps.some((g) => Math.hypot(g.x - x, g.y - y) < 1.5 * gap + wide)) continue;
    let most = 0;
    for (let c = 0; c < 3; c++)
      most = Math.max(most, Math.abs(made.data[4 * i + c] - original.data[4 * i + c]));
    if (off[i] > 0) {
      all++;
      whole.set(area[i], (whole.get(area[i]) ?? 0) + 1);
      if (most <= ASKED.seam) right++;
      else wrong.set(area[i], (wrong.get(area[i]) ?? 0) + 1);
    } else if (isBetweenClicked(drawing, clicked, x, y) && isBeside(drawing, off, x, y))
      seam = Math.max(seam, most);
  }
  const leaks = [...wrong].filter(([a, n]) => n > 0.5 * whole.get(a)!).length;
  return { areas: clicked.size, leaks, right: right / all, seam };
}

/** Whether all areas about a pixel of a line were clicked: beside one that stays bare there is no seam to see. */
function isBetweenClicked(
  { area, lines, wide }: ColouredDrawing,
  clicked: ReadonlySet<number>,
  x: number,
  y: number,
): boolean {
  const reach = Math.ceil(wide) + 2;
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const [px, py] = [x + dx, y + dy];
      if (px < 0 || py < 0 || px >= lines.width || py >= lines.height) return false;
      const own = area[py * lines.width + px];
      if (own >= 0 && !clicked.has(own)) return false;
    }
  return true;
}

/** A seam is seen along an area that is wider than the gaps that are closed; what is narrower is a tip of one, or a gap. */
const SEEN = 2;

/** Whether a pixel of a line lies beside the very area that it has some of, where that is no tip. */
function isBeside({ area, lines, gap }: ColouredDrawing, off: Int32Array, x: number, y: number): boolean {
  const own = area[y * lines.width + x];
  // A pocket between lines that is of no area has no colour either.
  if (own < 0) return false;
  const seen = closedGap(gap) / 2 + SEEN;
  const reach = Math.ceil(seen) + 2;
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const [px, py] = [x + dx, y + dy];
      if (px < 0 || py < 0 || px >= lines.width || py >= lines.height) continue;
      const at = py * lines.width + px;
      if (area[at] === own && off[at] >= seen * seen) return true;
    }
  return false;
}

const percent = (share: number): string => `${(100 * share).toFixed(2)} %`;

async function speed(): Promise<void> {
  const { lines } = colouredDrawing(3);
  // The same drawing over and over, until it has 16 megapixels.
  const times = Math.ceil(Math.sqrt(16e6 / (lines.width * lines.height)));
  const [width, height] = [lines.width * times, lines.height * times];
  const data = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++) {
    const row = 4 * lines.width * (y % lines.height);
    for (let k = 0; k < times; k++)
      data.set(lines.data.subarray(row, row + 4 * lines.width), 4 * (y * width + k * lines.width));
  }
  const source = {
    facts: { sha256: "", width, height, vector: false },
    pixels: async () => ({ width, height, data }),
  };
  const routeOf = (areas: number) =>
    readRoute({
      ...{ format: "hard-line-route", version: 1, name: "Coloured" },
      stages: [
        { stage: "size", dotsPerInch: 254, resample: "none" },
        {
          stage: "colour",
          gapMm: 0.9,
          areas: Array.from({ length: areas }, (_, k) => ({
            at: [0.01 + 0.03 * k, 0.01],
            colour: "#c04020",
          })),
        },
      ],
    });
  const runner = new Runner({ clock: () => performance.now() });
  const shown: string[] = [];
  for (let click = 0; click <= 3; click++) {
    const plan = planOf(routeOf(click), source.facts);
    if (click === 0) await runner.result(plan, source, plan.steps[1]);
    const began = performance.now();
    runToEnd(draftOf(runner, plan, plan.steps[2], { kind: "halves", times: 2 }));
    const draft = performance.now() - began;
    const { ms } = await runner.result(plan, source, plan.steps[2]);
    shown.push(
      `${click === 0 ? "put on" : `click ${click}`}: draft ${draft.toFixed(0)} ms, exact ${ms.toFixed(0)} ms`,
    );
  }
  console.log(`\n${(width * height * 1e-6).toFixed(1)} megapixels\n  ${shown.join("\n  ")}`);
}

async function main(): Promise<void> {
  const rows: Row[] = [];
  console.log("drawing        areas  gaps   leaks  right     seam");
  for (let k = 0; k < COUNT; k++) {
    const row = await measured(colouredDrawing(k));
    rows.push(row);
    const { drawing, areas, leaks, right, seam } = row;
    console.log(
      [
        `${drawing.name}${drawing.unseen ? " *" : ""}`.padEnd(14),
        String(areas).padStart(5),
        `${drawing.gaps.length} x ${drawing.gap}`.padStart(8),
        String(leaks).padStart(5),
        percent(right).padStart(9),
        String(seam).padStart(6),
      ].join(" "),
    );
  }
  for (const unseen of [false, true]) {
    const of = rows.filter((r) => r.drawing.unseen === unseen);
    if (of.length === 0) continue;
    const areas = of.reduce((sum, r) => sum + r.areas, 0);
    console.log(
      `${unseen ? "set no rule" : "set rules"}: ${of.length} drawings, ${areas} areas, leaks ${of.reduce((sum, r) => sum + r.leaks, 0)}, right ${percent(Math.min(...of.map((r) => r.right)))} at least, seam ${Math.max(...of.map((r) => r.seam))} at worst (asked: none, ${percent(ASKED.right)}, ${ASKED.seam})`,
    );
  }
  if (!process.env.NO_SPEED) await speed();
}

void main();
