import { type Check } from "@hardline/core/inspect/check";
import { readRoute } from "@hardline/core/route/route";
import { execFileSync } from "node:child_process";
import { drawJobSheet, type JobSheet } from "./jobSheet";

const route = readRoute({ format: "hard-line-route", version: 1, name: "A", stages: [{ stage: "tone" }] });
const checks = (count: number): Check[] =>
  Array.from({ length: count }, (_, k) => ({
    ...{ id: `c${k}`, level: "look", value: k, unit: "mm", places: [] },
    text: `Check number ${k}`,
    detail:
      "What is to be looked at here, said at some length so that it takes more than a line of the column.",
  }));
const files = (count: number) =>
  Array.from({ length: count }, (_, k) => ({
    ...{ name: `file-${k}.png`, mediaType: "image/png", bytes: 10 + k },
    sha256: `${k}`.padStart(64, "f"),
  }));

function sheetOf(more: Partial<JobSheet>, note = ""): Promise<Uint8Array> {
  const ticket = { number: 1042, piece: "Tag", customer: "Skerry Light", due: null, pieces: 3, note };
  const artwork = { name: "a.png", width: 10, height: 10 };
  return drawJobSheet({
    ticket: { ...ticket, output: "laser", material: "", artwork } as unknown as JobSheet["ticket"],
    route,
    revision: 2,
    finish: { widthMm: 90, heightMm: 60, widthPx: 900, heightPx: 600, dotsPerInch: 254 },
    picture: { width: 300, height: 900, data: new Uint8Array(300 * 900 * 4).fill(90) },
    checks: checks(2),
    files: files(3),
    plates: [],
    ...more,
  });
}

/** Every word with the page and the box it stands in. */
function wordsOf(pdf: Uint8Array) {
  const html = execFileSync("pdftotext", ["-bbox", "-", "-"], { input: pdf, encoding: "utf8" });
  let page = 0;
  return html.split("\n").flatMap((line) => {
    if (line.includes("<page")) page++;
    const found = /xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(.*)<\/word>/.exec(line);
    return found ? [{ page, box: found.slice(1, 5).map(Number), word: found[5] }] : [];
  });
}

test.each([
  ["few", 2, 3, ""],
  ["many checks", 30, 3, ""],
  ["many files", 2, 60, ""],
  ["a long note", 8, 6, "A word about the job. ".repeat(150)],
])("%s: every word stands on its page, and none on another", async (what, checkCount, fileCount, note) => {
  const words = wordsOf(await sheetOf({ checks: checks(checkCount), files: files(fileCount) }, note));
  for (const { box } of words) {
    expect(box[1]).toBeGreaterThan(20);
    expect(box[3]).toBeLessThan(841.89 - 20);
    expect(box[2]).toBeLessThan(595.28 - 20);
  }
  const text = words.map((w) => w.word).join(" ");
  for (let k = 0; k < checkCount; k++) expect(text).toContain(`Check number ${k} What`);
  for (let k = 0; k < fileCount; k++) expect(text).toContain(`${k}`.padStart(64, "f"));
  if (note) expect(text.match(/job\./g)).toHaveLength(150);
  const collisions: string[] = [];
  for (const [k, a] of words.entries())
    for (const b of words.slice(k + 1)) {
      if (a.page !== b.page) continue;
      const across = Math.min(a.box[2], b.box[2]) - Math.max(a.box[0], b.box[0]);
      const down = Math.min(a.box[3], b.box[3]) - Math.max(a.box[1], b.box[1]);
      // boxes of neighbouring lines touch by a little; words on one another share half a line
      if (across > 1 && down > 4) collisions.push(`${a.word} on ${b.word}`);
    }
  expect(collisions).toEqual([]);
  const pages = Math.max(...words.map((w) => w.page));
  if (what === "few") expect(pages).toBe(1);
  else expect(pages).toBeGreaterThan(1);
});

test("plates have a page with their pictures, what they cover and the ink for all pieces", async () => {
  const picture = { width: 60, height: 40, data: new Uint8Array(60 * 40 * 4).fill(200) };
  const plates = ["white", "red", "navy", "gold"].map((name, k) => ({
    ...{ name, colour: 0, percent: 10 + k, mm2: 1000 * (k + 1), millilitres: 0.25 * (k + 1), picture },
  }));
  const words = wordsOf(await sheetOf({ plates }));
  const page = Math.max(...words.map((w) => w.page));
  const text = words
    .filter((w) => w.page === page)
    .map((w) => w.word)
    .join(" ");
  expect(page).toBe(2);
  expect(text).toContain("Plates, in print order");
  // three pieces were ordered
  expect(text).toContain("12 %, 30 cm2, 2.3 ml for 3");
  for (const { name } of plates) expect(text).toContain(name);
});

test("lengths are in the unit that is asked for, and a customer's own words stay as they are", async () => {
  const ticket = { number: 1042, piece: "Tag 30 mm", customer: "", due: null, pieces: 3, note: "" };
  const artwork = { name: "a.png", width: 10, height: 10 };
  const told = { ...checks(1)[0], text: "Gaps of 0.25 mm", detail: "Wanted 0.5 mm" };
  const asked = {
    ticket: { ...ticket, output: "laser", material: "", artwork } as unknown as JobSheet["ticket"],
    checks: [told],
  };
  const text = (pdf: Uint8Array) =>
    wordsOf(pdf)
      .map((w) => w.word)
      .join(" ");
  const inches = text(await sheetOf({ ...asked, unit: "in" }));
  expect(inches).toContain("3.54 x 2.36 in");
  expect(inches).toContain("Gaps of 0.00984 in Wanted 0.0197 in");
  expect(inches).toContain("Tag 30 mm");
  expect(text(await sheetOf(asked))).toContain("90 x 60 mm");
});

test("where a print sits has a page of its own, with its distances on it", async () => {
  const sits = {
    picture: { width: 400, height: 400, data: new Uint8Array(400 * 400 * 4).fill(200) },
    dimensions: {
      words: ["Front: 75 mm below the collar, centred"],
      outlines: [
        [
          [0.3, 0.3],
          [0.6, 0.3],
          [0.6, 0.6],
          [0.3, 0.6],
        ] as const,
      ],
      measures: [{ from: [0.45, 0.1], to: [0.45, 0.3], words: "75 mm" } as const],
    },
  };
  const words = wordsOf(await sheetOf({ sits }));
  const last = words.filter((w) => w.page === 2);
  expect(last.map((w) => w.word).join(" ")).toContain(
    "Where it sits Front: 75 mm below the collar, centred. 75 mm",
  );
  // The figure stands beside its line: a fifth of the way down the picture.
  const [x0, , x1] = last.at(-1)!.box;
  expect((x0 + x1) / 2).toBeGreaterThan(595.28 * 0.4);
  const inches = wordsOf(await sheetOf({ sits, unit: "in" }));
  expect(inches.map((w) => w.word).join(" ")).toContain("2.95 in below the collar");
});
