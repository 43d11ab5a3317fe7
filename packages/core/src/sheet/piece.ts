import { numberOf } from "../colour/oklab";
import { printOf, type Print } from "../cutLine/print";
import { FLAT_MM } from "../cutLine/base";
import { jobOf } from "../machine/job";
import { drive } from "../maths/work";
import { ringsOf } from "../path/flatten";
import { pathSetOf, type PathSet } from "../path/pathSet";
import { offset } from "../polygon/offset";
import { ringArea, ringBox, type Ring } from "../polygon/rings";
import { type Bits, type Rect } from "../raster/types";
import { outlineOf } from "../result/finish";
import { type Paths, type Picture, type Result } from "../result/result";
import { planOf } from "../route/plan";
import { settingsOf, type Route } from "../route/route";
import { type RunOptions, type Runner } from "../route/runner";
import { type ArtworkSource } from "../route/source";

/** One piece as it goes on sheets, in mm from the finish's top left. */
export interface SheetPiece {
  readonly name: string;
  /** What no neighbour may lie over. */
  readonly outline: Ring;
  /** Box of the outline. */
  readonly box: Rect;
  readonly sets: readonly PathSet[];
  readonly bitmap: { readonly bits: Bits; readonly dotsPerInch: number } | null;
  readonly print: Print | null;
}

/**
 * What a route makes of an artwork, as a piece for sheets: its lines, its dots, or the picture that is printed, limited to
 * the cut line moved out by the bleed.
 * @throws as `Runner.run`
 */
export async function sheetPiece(
  runner: Runner,
  route: Route,
  source: ArtworkSource,
  {
    bleedMm,
    signal,
    progress,
    pause,
  }: RunOptions & { readonly bleedMm: number; readonly pause?: () => Promise<void> },
): Promise<SheetPiece> {
  const plan = planOf(route, source.facts);
  for (const { stage, settings } of plan.steps) stage.admit?.(settings, plan.place);
  const kinds = ["plates", "paths"];
  const last = plan.steps.findLast(({ stage }) => stage.gives === "picture");
  const wanted = plan.steps.filter((step) => kinds.includes(step.stage.gives) || step === last);
  const results: Result[] = [];
  for (const [k, step] of wanted.entries()) {
    const part = (share: number) => progress?.((0.9 * (k + share)) / wanted.length, step.stage.id);
    results.push((await runner.result(plan, source, step, { signal, progress: part })).result);
  }
  const { bitmaps, sets } = jobOf(route.name, results);
  const paths = results.findLast((r): r is Paths => r.kind === "paths");
  const lines = sets.filter((s) => s.use === "through" || s.use === "kiss");
  const plain = pathSetOf({ name: "piece", use: "through", colour: 0 }, outlineOf(plan.place));
  const cut = lines.length > 0 ? lines : [plain];
  const outline = outlineRound(cut);
  const bitmap = bitmaps.length === 1 ? bitmaps[0] : null;
  const picture = results.findLast((r): r is Picture => r.kind === "picture");
  const art = paths?.cut?.art ?? picture?.colour;
  let print: Print | null = null;
  if (!bitmap && art) {
    const wish = settingsOf(route, "cutLine")?.print;
    const by = Math.max(wish?.byMm ?? 0, bleedMm);
    const rings = offset(ringsOf(cut[0], FLAT_MM), by);
    const under =
      wish?.under === "colour"
        ? { kind: "colour" as const, colour: numberOf(wish.colour) }
        : { kind: wish?.under ?? ("edge" as const) };
    print = await drive(printOf({ ...art, data: art.data.slice() }, rings, under, plan.place.finish), {
      ...{ signal, pause },
    });
  }
  const run = sets.filter((s) => s.use !== "print" && s.use !== "fill");
  return { name: route.name, outline, box: ringBox(outline), sets: run, bitmap, print };
}

/** The outer line of a piece; of several parts, the box round all of them. */
function outlineRound(sets: readonly PathSet[]): Ring {
  const outers = sets.flatMap((set) => ringsOf(set, FLAT_MM)).filter((ring) => Math.abs(ringArea(ring)) > 0);
  const largest = outers.reduce((a, b) => (Math.abs(ringArea(b)) > Math.abs(ringArea(a)) ? b : a));
  const box = ringBox(largest);
  const boxes = outers.map(ringBox);
  const [l, t] = [Math.min(...boxes.map((b) => b.x)), Math.min(...boxes.map((b) => b.y))];
  const r = Math.max(...boxes.map((b) => b.x + b.width));
  const b = Math.max(...boxes.map((c) => c.y + c.height));
  const near = (u: number, v: number) => Math.abs(u - v) < 1e-6;
  if (near(box.x, l) && near(box.y, t) && near(box.width, r - l) && near(box.height, b - t)) return largest;
  return Float64Array.of(l, t, r, t, r, b, l, b);
}
