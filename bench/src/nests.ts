import { runToEnd } from "@hardline/core/maths/work";
import { ringArea } from "@hardline/core/polygon/rings";
import { placed } from "@hardline/core/sheet/arrangement";
import { byBoxes } from "@hardline/core/sheet/boxes";
import { nest } from "@hardline/core/sheet/nest";
import { overlap } from "@hardline/core/sheet/noFit";
import { NEST_SETS } from "./nestSets";

/*
 * Pieces on a sheet: by their true outlines, against boxes as far up and left as they go. Prints a table; exits 1 where an
 * arrangement is worse than the boxes, or lets two outlines lie over each other.
 */
const ROUNDS = Number(process.env.ROUNDS ?? 24);
let wrong = 0;
console.log("set                       boxes  nested   more   boxes use  nested use  seconds");
const more: { ragged: boolean; unseen: boolean; share: number }[] = [];
for (const { name, pieces, widthMm, heightMm, spacingMm, ragged, unseen } of NEST_SETS) {
  const stock = { room: { x: 0, y: 0, width: widthMm, height: heightMm }, blocked: [], sheets: 1 };
  const boxes = byBoxes(pieces, stock, spacingMm);
  const began = performance.now();
  const nested = runToEnd(nest(pieces, stock, { spacingMm, rounds: ROUNDS }));
  const seconds = (performance.now() - began) / 1000;
  const use = (a: typeof boxes) =>
    a.placings.reduce((sum, p) => sum + Math.abs(ringArea(pieces[p.piece].outline)), 0) /
    (widthMm * heightMm);
  const rings = nested.placings.map((p) => placed(pieces[p.piece], p));
  const over = rings.some((a, i) => rings.slice(i + 1).some((b) => overlap(a, b)));
  if (over || nested.placings.length < boxes.placings.length) wrong++;
  const share = nested.placings.length / boxes.placings.length - 1;
  more.push({ ragged, unseen, share });
  const percent = (v: number) => `${(100 * v).toFixed(1)} %`;
  console.log(
    `${`${name}${ragged ? ", ragged" : ""}${unseen ? " *" : ""}`.padEnd(34)}${String(boxes.placings.length).padStart(5)}${String(nested.placings.length).padStart(7)}${percent(share).padStart(9)}${percent(use(boxes)).padStart(9)}${percent(use(nested)).padStart(9)}${seconds.toFixed(1).padStart(7)}${over ? "  OVERLAP" : ""}`,
  );
}
const mean = (of: typeof more) => (100 * of.reduce((s, m) => s + m.share, 0)) / Math.max(1, of.length);
console.log(
  `ragged: ${mean(more.filter((m) => m.ragged)).toFixed(1)} % more pieces; unseen (*) among them ${mean(more.filter((m) => m.ragged && m.unseen)).toFixed(1)} %`,
);
process.exitCode = wrong > 0 ? 1 : 0;
