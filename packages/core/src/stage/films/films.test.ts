import { type Check } from "../../inspect/check";
import { countMarks } from "../../raster/bits";
import { bitAt, type Rgba } from "../../raster/types";
import { asItIs } from "../../result/finish";
import { type Picture, type Plates } from "../../result/result";
import { readDot } from "../../result/read";
import { ByteCache } from "../../route/byteCache";
import { USUAL_LIMITS } from "../../inspect/limits";
import { deliveredBy, inspectStage, runStage, settingsFor } from "../../testing/running";
import { stageById } from "../stages";
import { filmFinish } from "./films";
import { colourway } from "../../recolour/colourway";
import { fileWord, type FilmsSettings } from "./settings";

const [W, H] = [240, 200]; // 24 x 20 mm at ten dots a millimetre
const NAVY = 0x1a2340;

function pictureOf(at: (x: number, y: number) => number | null): Picture {
  const data = new Uint8Array(4 * W * H);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 4) {
      const c = at(x, y);
      if (c !== null) data.set([c >> 16, (c >> 8) & 255, c & 255, 255], o);
    }
  const colour: Rgba = { width: W, height: H, data };
  return { kind: "picture", ...asItIs({ width: W, height: H }), colour, cleared: null };
}

/** A red disc beside a yellow bar, white in the middle of the disc, on nothing. */
const badge = pictureOf((x, y) => {
  const r = Math.hypot(x - 80, y - 100);
  if (r < 20) return 0xffffff;
  if (r < 60) return 0xc8102e;
  return x >= 145 && x < 200 && y >= 60 && y < 140 ? 0xf2c230 : null;
});
const base = { name: "white", colour: "#ffffff", role: "underbase" };
const INKS = [base, { name: "red", colour: "#c8102e" }, { name: "yellow", colour: "#f2c230" }];
const onNavy = (more: object = {}) => ({ separate: "flat", garment: "#1a2340", inks: INKS, ...more });
const made = (picture: Picture, given: object, cache?: ByteCache<unknown>): Plates =>
  runStage("films", picture, given, cache) as Plates;
const checksOf = (picture: Picture, given: object, limits = {}): Record<string, Check> =>
  Object.fromEntries(
    inspectStage("films", made(picture, given), given, { ...USUAL_LIMITS, ...limits }, picture).checks.map(
      (c) => [c.id, c],
    ),
  );
const marks = (plates: Plates): number[] => plates.plates.map((p) => countMarks(p.bits));
const mm2 = (dots: number): number => dots / 100;

test("each ink has its film, white lies under all of them, and the cloth shows through", () => {
  const plates = made(badge, onNavy());
  const [white, red, yellow] = marks(plates).map(mm2);
  expect(red).toBeCloseTo(Math.PI * (36 - 4), 0);
  expect(yellow).toBeCloseTo(5.5 * 8, 1);
  expect(white).toBeCloseTo(Math.PI * 36 + 5.5 * 8, 0);
  expect(plates.print!.garment).toBe(NAVY);
  expect(plates.plates.every(({ bits }) => bitAt(bits, 5, 5) === 0)).toBe(true);
});

test("without inks named they are found, the cloth's own left out", () => {
  const on = pictureOf((x, y) => (Math.hypot(x - 80, y - 100) < 60 ? 0xc8102e : NAVY));
  const plates = made(on, { garment: "#1a2340" });
  expect(plates.plates.map((p) => p.name)).toEqual(["red"]);
  expect(plates.print!.reason).toContain("1 flat colour holds");
  expect(made(badge, { inks: 2, garment: "#1a2340" }).plates).toHaveLength(2);
  expect(made(badge, { separate: "process" }).plates.map((p) => p.name)).toEqual([
    "yellow",
    "magenta",
    "cyan",
    "black",
  ]);
  expect(made(badge, { separate: "black" }).plates.map((p) => p.name)).toEqual(["black"]);
  expect(made(badge, { separate: "tonal", inks: 3, garment: "#000000" }).plates).toHaveLength(3);
});

test("white that would peek out is told with its place and its choke, and the choke mends it", () => {
  const loose = checksOf(badge, onNavy()).whitePeeks;
  expect(loose.level).toBe("look");
  expect(loose.value).toBeGreaterThan(8); // a quarter of a millimetre along some 66 mm of edge
  expect(loose.value).toBeLessThan(20);
  expect(loose.places.length).toBeGreaterThan(0);
  const { inks } = loose.repair!.change as { inks: FilmsSettings["inks"] };
  expect(checksOf(badge, onNavy({ inks })).whitePeeks.level).toBe("fine");
  const spread = INKS.map((i) => (i.name === "white" ? { ...i, spreadMm: 0.4 } : i));
  expect(checksOf(badge, onNavy({ inks: spread })).whitePeeks).toMatchObject({
    level: "stop",
    text: "White is not covered",
  });
});

test("gaps that a misregister opens between inks that meet are told, and a trap closes them", () => {
  const meeting = pictureOf((x) => (x < 120 ? 0xc8102e : 0xf2c230));
  const inks = INKS.slice(1);
  const open = checksOf(meeting, onNavy({ inks })).openings;
  expect(open.level).toBe("look");
  expect(open.value).toBeCloseTo(2 * 0.25 * 20, -1);
  expect(open.repair!.change).toEqual({ trapMm: 0.25 });
  expect(checksOf(meeting, onNavy({ inks, trapMm: 0.3 })).openings.level).toBe("fine");
  expect(checksOf(badge, onNavy()).openings.level).toBe("fine"); // there is cloth between them
});

test("a tint of four tenths of a percent where nothing should be stops the film", () => {
  const haze = pictureOf((x) => (x < 120 ? 0xfefefe : 0x101010));
  const inks = [{ name: "black", colour: "#000000" }];
  const tinted = checksOf(haze, { separate: "tonal", inks }).tint;
  expect(tinted).toMatchObject({ level: "stop", unit: "%" });
  expect(tinted.value).toBeGreaterThanOrEqual(0.4);
  expect(tinted.places[0]).toMatchObject({ xMm: 0, widthMm: 12 });
  // A shade that runs to the edge in one place is told, and left to be looked at.
  const shade = pictureOf((x, y) => (Math.hypot(x, y) < 60 ? 0xfefefe : 0x101010));
  expect(checksOf(shade, { separate: "tonal", inks }).tint.level).toBe("look");
  expect(checksOf(haze, { separate: "tonal", inks, knockOut: { tolerance: 2 } }).tint.level).toBe("fine");
  expect(checksOf(haze, { separate: "black" }).tint.level).toBe("fine"); // bare to the ground, by itself
});

test("dots under the mesh, too much ink, needless films, beating screens and a wide film are told", () => {
  const ruled = (angle: number) => ({ linesPerInch: 40, angle, dot: "round" });
  const [a, b] = ["one", "two"].map((name, k) => ({
    ...{ name, colour: ["#c8102e", "#1f5fa8"][k], opacity: 0, meshPerCm: 20 },
    screen: ruled([20, 23][k]),
  }));
  const third = { name: "spare", colour: "#2c7a3f" };
  const slope = pictureOf((x, y) => ((40 + Math.round(x / 2)) << 16) | (Math.round(y / 3) << 8) | 60);
  const found = checksOf(slope, { separate: "tonal", inks: [a, b, third], totalInk: 100 }, { filmMm: 40 });
  expect(found.fineDots.value).toBeGreaterThan(10);
  expect(found.fineDots.detail).toContain("under 0.5 mm");
  expect(found.totalInk).toMatchObject({ level: "look", unit: "%" });
  expect(found.beats.value).toBeCloseTo(25.4 / (2 * 40 * Math.sin((1.5 * Math.PI) / 180)), 0);
  expect(found.filmWidth).toMatchObject({ level: "stop", value: 48 });
  const spare = checksOf(badge, onNavy({ inks: [...INKS, third] })).plates;
  expect(spare).toMatchObject({ level: "look", detail: "Nearly nothing on spare." });
});

test("films at a finer printer have its dots and the finish's size", async () => {
  const given = onNavy({ printerDotsPerInch: 1016 });
  const plates = made(badge, given);
  expect([plates.finish.widthPx, plates.finish.dotsPerInch, plates.finish.widthMm]).toEqual([
    960,
    1016,
    badge.finish.widthMm,
  ]);
  expect(countMarks(plates.plates[1].bits) / 1600).toBeCloseTo(Math.PI * 32, 0);
  expect(readDot([plates], badge, 80, 60)!.plates).toEqual([
    { name: "white", marked: true, percent: 100 },
    { name: "red", marked: true, percent: 100 },
    { name: "yellow", marked: false, percent: 0 },
  ]);
  const settings = settingsFor("films", onNavy({ printerDotsPerInch: 700 })) as FilmsSettings;
  expect(() => filmFinish(settings, badge.finish)).toThrow(
    /printerDotsPerInch is 700; allowed: a whole multiple/,
  );
});

test("every film is handed over in three forms, all in one document, with the proof; mirrored ones are turned round", async () => {
  const plates = made(badge, onNavy());
  const files = await deliveredBy("films", plates, onNavy());
  const names = ["white", "red", "yellow"].flatMap((n) => [
    `film-${n}.png`,
    `film-${n}.tif`,
    `film-${n}.pdf`,
  ]);
  expect(Object.keys(files)).toEqual([...names, "films.pdf", "proof.png"]);
  const sand = colourway.parse({ name: "Sand", garment: "#d8c8a0", colours: { red: "#204060" } });
  expect(Object.keys(await deliveredBy("films", plates, onNavy(), [sand])).slice(-2)).toEqual([
    "colourways.png",
    "colourways.pdf",
  ]);
  const turned = await deliveredBy("films", plates, onNavy({ mirror: true }));
  expect(turned["film-red.png"]).not.toEqual(files["film-red.png"]);
});

test("changing a screen or a spread makes anew no more than hangs on it", () => {
  const cache = new ByteCache<unknown>(1 << 28);
  const first = made(badge, onNavy(), cache);
  const screened = onNavy({
    inks: INKS.map((i, k) => (k === 1 ? { ...i, screen: { linesPerInch: 30, angle: 10 } } : i)),
  });
  const third = made(badge, screened, cache);
  expect(third.print!.tones[1].data).toBe(first.print!.tones[1].data);
  expect(third.plates[2].bits).toBe(first.plates[2].bits);
});

test("what cannot be met is refused by name", () => {
  const refuse = (given: object, message: RegExp) =>
    expect(() => stageById("films").admit!(settingsFor("films", given), badge)).toThrow(message);
  const fine = [{ name: "red", colour: "#c8102e", screen: { linesPerInch: 200, angle: 0, dot: "round" } }];
  refuse({ separate: "tonal", inks: fine }, /inks.0.screen.linesPerInch is 200; allowed: 127 or less/);
  expect(() => settingsFor("films", { inks: [INKS[1], { ...INKS[2], name: "Red" }] })).toThrow(
    /inks.1.name is "Red"; allowed: a name that no other ink has/,
  );
  expect(() => settingsFor("films", { garment: "navy" })).toThrow(
    /garment is "navy"; allowed: a colour as #rrggbb/,
  );
  expect(fileWord("Grün 2")).toBe("gru-n-2");
});
