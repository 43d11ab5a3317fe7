import { RECOLOUR_PICTURES, recolourPicture } from "@hardline/demo";
import { codesOf, oklabOf } from "@hardline/core/colour/oklab";
import { runToEnd } from "@hardline/core/maths/work";
import { colourChange } from "@hardline/core/recolour/change";
import { proposeRange } from "@hardline/core/recolour/proposeRange";
import { recoloured } from "@hardline/core/recolour/recolour";
import { asItIs } from "@hardline/core/result/finish";
import { type Picture } from "@hardline/core/result/result";
import { viewOf } from "@hardline/core/result/view";
import { type Rgba } from "@hardline/core/raster/types";

/*
 * Composites of known parts with one part recoloured, beside the same painted in the other colour. What is picked is one
 * colour of the part in middling light; how far its range goes is what is proposed on the picture.
 */

interface Row {
  readonly name: string;
  readonly unseen: boolean;
  /** Pixels outside that came out otherwise. */
  readonly outside: number;
  /** Difference within, in codes: at worst, and in the mean. */
  readonly worst: number;
  readonly mean: number;
  /** At the edge, which the part shares with others. */
  readonly edge: number;
  readonly edgeMean: number;
}

function rowOf(index: number): Row {
  const { name, unseen, picture, truth, cover, from, to } = recolourPicture(index);
  const own = runToEnd(
    recoloured(picture, [colourChange.parse({ from, ...proposeRange(picture, from), to: { colour: to } })]),
  ).data;
  let [outside, worst, sum, inside, edge, edgeSum, edges] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0, o = 0; i < cover.length; i++, o += 4) {
    const off = Math.max(...[0, 1, 2].map((c) => Math.abs(own[o + c] - truth.data[o + c])));
    if (cover[i] === 0) outside += +(off > 0);
    else if (cover[i] === 255) {
      worst = Math.max(worst, off);
      sum += off;
      inside++;
    } else {
      edge = Math.max(edge, off);
      edgeSum += off;
      edges++;
    }
  }
  return { name, unseen, outside, worst, mean: sum / inside, edge, edgeMean: edgeSum / edges };
}

/** Sixteen million pixels: once exactly, and what the screen shows of them while a hand turns a hue. */
function times(): void {
  const [width, height] = [4619, 3464];
  const small = recolourPicture(0).picture;
  const data = new Uint8Array(4 * width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const s = 4 * ((y % small.height) * small.width + (x % small.width));
      // A little of each pixel's own, as a photograph has.
      for (let c = 0; c < 3; c++)
        data[o + c] = Math.max(0, small.data[s + c] - ((x * 7 + y * 13 + c * 5) % 5));
      data[o + 3] = 255;
    }
  const colour: Rgba = { width, height, data };
  const { from } = recolourPicture(0);
  const turned = (hue: number) => [colourChange.parse({ from, to: { hue } })];
  let began = performance.now();
  runToEnd(recoloured(colour, turned(40)));
  const whole = performance.now() - began;
  const picture: Picture = { kind: "picture", ...asItIs(colour), colour, cleared: null };
  const each: number[] = [];
  for (let k = 0; k < 21; k++) {
    const way = { name: "x", garment: "#ffffff", colours: {}, recolour: turned(10 * k), shown: true };
    began = performance.now();
    runToEnd(
      viewOf(picture, { part: { x: 0, y: 0, width, height }, width: 723, height: 542, base: 0xffffff, way }),
    );
    each.push(performance.now() - began);
  }
  const sorted = each.slice(1).sort((a, b) => a - b);
  console.log(
    `\n16 megapixels: exactly ${(whole / 1000).toFixed(2)} s; a picture of 723 x 542 of them as the hand moves: median ${sorted[10].toFixed(0)} ms, worst ${sorted[19].toFixed(0)} ms (asked: 40)`,
  );
}

function main(): void {
  const rows: Row[] = [];
  console.log("composite        hue from, to     outside changed   inside worst   mean   edge worst   mean");
  for (let k = 0; k < RECOLOUR_PICTURES; k++) {
    const { from, to } = recolourPicture(k);
    const row = rowOf(k);
    rows.push(row);
    console.log(
      [
        `${row.name}${row.unseen ? " *" : ""}`.padEnd(16),
        `${from} ${to} ${oklabOf(...codesOf(from)).l.toFixed(0)}`.padEnd(20),
        String(row.outside).padStart(10),
        String(row.worst).padStart(14),
        row.mean.toFixed(2).padStart(8),
        String(row.edge).padStart(10),
        row.edgeMean.toFixed(2).padStart(8),
      ].join(" "),
    );
  }
  for (const unseen of [false, true]) {
    const some = rows.filter((r) => r.unseen === unseen);
    console.log(
      `${unseen ? "unseen *" : "seen"}: ${some.length} pictures; outside changed in ${some.filter((r) => r.outside > 0).length}; inside within 6 at worst in ${some.filter((r) => r.worst <= 6).length}; edge ${Math.max(...some.map((r) => r.edge))} at worst (asked: 0, 6, no seam)`,
    );
  }
  times();
}

main();
