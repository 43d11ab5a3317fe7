import { filmPictures, flatDrawings } from "@hardline/demo";
import { measureDark } from "./darkTable";
import { measureFilms, measureInks, measureRuling, type FilmRow } from "./filmTable";

const ASKED = { plates: 1, print: { flat: 1, tonal: 2 }, coverage: 1 };

const RULINGS = [
  [45, 22.5, "ellipse", 762],
  [55, 52.5, "round", 1016],
  [65, 82.5, "diamond", 1270],
  [40, 15, "line", 762],
  [35, 75, "ellipse", 508],
] as const;

/** JPEG of quality 70: inks found, and areas with the inks given. */
async function inksOfDrawings(): Promise<void> {
  console.log("\n| flat drawing as JPEG 70 | inks | areas off, % of each, the outline's last |");
  console.log("| --- | ---: | ---: |");
  const drawings = await flatDrawings();
  for (const unseen of [true, false]) {
    const part = drawings.filter((d) => d.unseen === unseen);
    let right = 0;
    const [areas, outlines]: [number[], number[]] = [[], []];
    for (const one of part) {
      const row = await measureInks(one);
      right += +row.right;
      areas.push(...row.areas.map(Math.abs));
      outlines.push(row.areas[row.areas.length - 1]);
      const off = row.areas.map((a) => a.toFixed(1)).join(", ");
      console.log(
        `| ${one.name}${unseen ? " (set no rule)" : ""} | ${row.right ? "right" : row.found.join(" ")} | ${off} |`,
      );
    }
    const at = (list: readonly number[], share: number): string =>
      [...list].sort((a, b) => a - b)[Math.floor(share * (list.length - 1))].toFixed(2);
    console.log(
      `\n${unseen ? "unseen" : "seen"}: inks right on ${right} of ${part.length} (36 of 40); area off, median ${at(areas, 0.5)} % (0.3), nine of ten under ${at(areas, 0.9)} %; outlines from ${at(outlines, 0)} to ${at(outlines, 1)} %\n`,
    );
  }
}

async function main(): Promise<void> {
  if (process.argv.includes("jpeg")) return await inksOfDrawings();
  if (process.argv.includes("dark")) return void (await measureDark());
  const pictures = await filmPictures();
  console.log(
    "| picture | plates off, % (asked 1) | marks on bare cloth (0) | print, ΔE2000 (1 flat, 2 tonal) | coverage off, % (1) |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: |");
  const rows = { seen: [] as FilmRow[], unseen: [] as FilmRow[] };
  const missed = { seen: 0, unseen: 0 };
  for (const one of pictures) {
    const row = await measureFilms(one);
    const part = one.unseen ? "unseen" : "seen";
    rows[part].push(row);
    const { plates, haze, print, coverage } = row;
    const met =
      plates <= ASKED.plates && haze === 0 && print <= ASKED.print[one.kind] && coverage <= ASKED.coverage;
    if (!met) missed[part]++;
    console.log(
      `| ${one.name}${one.unseen ? " (set no rule)" : ""} | ${plates.toFixed(3)} | ${haze} | ${print.toFixed(2)} | ${coverage.toFixed(2)} |`,
    );
  }
  for (const [part, list] of Object.entries(rows)) {
    const mean = (of: (r: FilmRow) => number): string =>
      (list.reduce((s, r) => s + of(r), 0) / list.length).toFixed(3);
    console.log(
      `\n${list.length} ${part}: plates off ${mean((r) => r.plates)} %, print ${mean((r) => r.print)}; ${missed[part as "seen"]} miss a figure.`,
    );
  }
  await inksOfDrawings();
  missed.seen += await measureDark();
  console.log(
    "\n| film, even tone | ruling off, % (asked 1) | angle off, degrees (0.5) | coverage off, % (1) |",
  );
  console.log("| --- | ---: | ---: | ---: |");
  for (const [lines, angle, dot, printer] of RULINGS) {
    const { ruling, angle: turn, coverage } = await measureRuling(lines, angle, dot, printer);
    if (ruling > 1 || turn > 0.5 || coverage > 1) missed.seen++;
    console.log(
      `| ${lines} lpi at ${angle}, ${dot}, ${printer} dots/in | ${ruling.toFixed(2)} | ${turn.toFixed(3)} | ${coverage.toFixed(2)} |`,
    );
  }
  process.exitCode = missed.seen + missed.unseen > 0 ? 1 : 0;
}

void main();
