import { paperPhotograph, type PaperPhotograph } from "@hardline/demo";
import { runToEnd } from "@hardline/core/maths/work";
import { findPaper } from "@hardline/core/paper/findPaper";
import { Lens } from "@hardline/core/paper/lens";
import { knownPaper, toldBy } from "@hardline/core/paper/proportion";
import { type Paper } from "@hardline/core/paper/settings";
import { NO_TURN, turnedSize, type Turn } from "@hardline/core/turn/turn";
import { placeAfter } from "@hardline/core/turn/turnedPlace";
import { turned } from "@hardline/core/turn/turned";
import { squaresOff } from "./squares";

type Point = readonly [number, number];
/** Photographs of flat paper, and of curled paper. */
const [FLAT, CURLED] = [60, 12];
/** Corners within this are found, in pixels. */
const FOUND = 6;

interface Row {
  readonly unseen: boolean;
  /** Of the four corners, in pixels of the photograph; null where nothing was found. */
  readonly corners: { readonly mean: number; readonly most: number } | null;
  readonly degrees: number | null;
  readonly proportion: number | null;
  readonly squares: number | null;
}

/* Prints how papers on rendered photographs are found and made flat. A number as argument: so many of them alone. */
async function main(): Promise<void> {
  const count = Number(process.argv[2] ?? FLAT);
  console.log(
    "| photograph | corners off, mean, most (px) | lens | lines askew (°) | proportion off (%) | squares off, most (px) |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
  const rows: Row[] = [];
  for (let seed = 0; seed < count; seed++) rows.push(told(await paperPhotograph(seed)));
  for (const [what, of] of [
    ["* no rule was set by", rows.filter((r) => r.unseen)],
    ["seen while rules were set", rows.filter((r) => !r.unseen)],
  ] as const)
    summary(what, of);
  console.log(
    "\n| curled paper, its edges placed by hand | off on the paper, mean, most (% of its width) | proportion off (%) |",
  );
  console.log("| --- | ---: | ---: |");
  for (let seed = 0; seed < Math.min(CURLED, count); seed++) curled(await paperPhotograph(seed, true));
}

function told(photo: PaperPhotograph): Row {
  const { picture, unseen, name } = photo;
  const found = runToEnd(findPaper(picture));
  const mark = unseen ? "*" : "";
  if (!found) {
    console.log(`| ${mark}${name} | not found | | | | |`);
    return { unseen, corners: null, degrees: null, proportion: null, squares: null };
  }
  const px = found.corners.map(([u, v]): Point => [u * picture.width, v * picture.height]);
  const offs = px.map((p, k) => Math.hypot(p[0] - photo.corners[k][0], p[1] - photo.corners[k][1]));
  const corners = { mean: offs.reduce((a, b) => a + b) / 4, most: Math.max(...offs) };
  const [w, h] = photo.paper;
  const straight = new Lens(picture, found.lens);
  const { proportion } = toldBy(
    px.map((p) => straight.straight(p)),
    picture,
  );
  const paper: Paper = {
    corners: found.corners as unknown as Paper["corners"],
    lens: found.lens,
    proportion: w / h,
    light: false,
  };
  const turn: Turn = { ...NO_TURN, paper };
  const degrees = corners.most <= FOUND ? askew(photo, turn) : null;
  const squares =
    /^squares/.test(name) && degrees !== null ? squaresOff(runToEnd(turned(picture, turn))) : null;
  const off = 100 * Math.abs(proportion / (w / h) - 1);
  console.log(
    `| ${mark}${name} | ${corners.mean.toFixed(2)}, ${corners.most.toFixed(2)} | ${photo.lens.toFixed(3)}, told ${found.lens.toFixed(3)} | ${degrees?.toFixed(2) ?? ""} | ${off.toFixed(1)}${knownPaper(proportion) ? ` (${knownPaper(proportion)!.name})` : ""} | ${squares?.toFixed(2) ?? ""} |`,
  );
  return { unseen, corners, degrees, proportion: off, squares };
}

/** How far lines of text, level on the paper, lie askew once it is flat: the most of five, in degrees, end to end and in the middle. */
function askew({ paper: [w, h], seen, picture }: PaperPhotograph, turn: Turn): number {
  const after = placeAfter(picture, turn);
  const size = turnedSize(picture, turn);
  const place = (x: number, y: number): Point => {
    const [u, v] = seen(x, y);
    const [a, b] = after([u / picture.width, v / picture.height]);
    return [a * size.width, b * size.height];
  };
  let most = 0;
  for (const v of [0.1, 0.3, 0.5, 0.7, 0.9]) {
    const [a, m, b] = [0.1, 0.5, 0.9].map((u) => place(u * w, v * h));
    for (const [from, to] of [
      [a, m],
      [m, b],
    ])
      most = Math.max(most, Math.abs((Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI));
  }
  return most;
}

function curled(photo: PaperPhotograph): void {
  const { picture, seen, name } = photo;
  const [w, h] = photo.paper;
  const at = (x: number, y: number): [number, number] => {
    const [u, v] = seen(x, y);
    return [u / picture.width, v / picture.height];
  };
  const edge = (y: number): [[number, number], [number, number]] => [at(0.35 * w, y), at(0.65 * w, y)];
  const paper: Paper = {
    corners: photo.corners.map(([x, y]) => [
      x / picture.width,
      y / picture.height,
    ]) as unknown as Paper["corners"],
    ...{ lens: photo.lens, light: false, curled: { top: edge(0), foot: edge(h) } },
  };
  const turn: Turn = { ...NO_TURN, paper };
  const after = placeAfter(picture, turn);
  const size = turnedSize(picture, turn);
  const offs: number[] = [];
  for (let u = 0.1; u < 1; u += 0.1)
    for (let v = 0.1; v < 1; v += 0.2) {
      const [a, b] = after(at(u * w, v * h));
      offs.push(100 * Math.hypot(a - u, ((b - v) * h) / w));
    }
  const mean = offs.reduce((a, b) => a + b) / offs.length;
  const proportion = 100 * Math.abs(size.width / size.height / (w / h) - 1);
  console.log(`| ${name} | ${mean.toFixed(2)}, ${Math.max(...offs).toFixed(2)} | ${proportion.toFixed(1)} |`);
}

function summary(what: string, rows: readonly Row[]): void {
  const found = rows.filter((r) => r.corners && r.corners.most <= FOUND);
  const mean = found.reduce((sum, r) => sum + r.corners!.mean, 0) / found.length;
  const most = (of: (r: Row) => number | null) => Math.max(...found.map((r) => of(r) ?? 0));
  console.log(
    `\n${what}: ${found.length} of ${rows.length} found within ${FOUND} px; of those mean ${mean.toFixed(2)}, most ${most((r) => r.corners!.most).toFixed(2)} px; lines askew ${most((r) => r.degrees).toFixed(2)}° at most; ${found.some((r) => r.squares !== null) ? `squares off ${most((r) => r.squares).toFixed(2)} px at most` : "no squares among them"}; proportion within 2.5 % in ${found.filter((r) => r.proportion! <= 2.5).length}`,
  );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
