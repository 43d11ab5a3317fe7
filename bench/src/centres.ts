import { CENTRE_KINDS, drawnStrokes, tracedStrokes } from "./centreTable";

const EACH = Number(process.argv[2] ?? 9);
const ASKED_PX = 0.3;

console.log(
  `Lines along the middle of strokes 1 to 5 px wide, ${EACH} drawings of each kind; asked: one a stroke, within ${ASKED_PX} px.\n`,
);
console.log("| strokes | one a stroke | within .3 px | off, px: median, worst | missed, worst |");
console.log("| --- | ---: | ---: | ---: | ---: |");
const all: (ReturnType<typeof drawnStrokes>[number] & ReturnType<typeof tracedStrokes>["result"])[] =
  drawnStrokes(EACH).map((s) => ({ ...s, ...tracedStrokes(s).result }));
for (const unseen of [true, false])
  for (const kind of [...CENTRE_KINDS, "all"]) {
    const rows = all.filter((r) => r.unseen === unseen && (kind === "all" || r.kind === kind));
    const off = rows.map((r) => r.off).sort((a, b) => a - b);
    console.log(
      `| ${kind}${unseen ? " (set no rule)" : ""} | ${rows.filter((r) => r.exact).length} of ${rows.length} | ${off.filter((o) => o <= ASKED_PX).length} | ${off[off.length >> 1].toFixed(2)}, ${off[off.length - 1].toFixed(2)} | ${(100 * Math.max(...rows.map((r) => r.missed))).toFixed(0)} % |`,
    );
  }
