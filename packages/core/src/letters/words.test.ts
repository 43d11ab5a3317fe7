import { readFile } from "node:fs/promises";
import { runToEnd } from "../maths/work";
import { flattened, lengthOf, ringsOf } from "../path/flatten";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { evenOdd, joined } from "../polygon/clip";
import { holesOf } from "../polygon/islands";
import { areaOf } from "../polygon/rings";
import { FONTS, shippedFace } from "../testing/shippedFont";
import { alongPath } from "./baseline";
import { fontFault, fontName } from "./fontFault";
import { lineIn } from "./line";
import { SHIPPED_FONTS } from "./shipped";
import { setWords, type HowSet } from "./words";
import { curveBox } from "../path/curveBox";

const USUAL: HowSet = {
  ...{ text: "H", capitalMm: 10, trackingPercent: 0, leading: 1.6, align: "left", bridgeMm: 0 },
};
const set = async (font: string, how: Partial<HowSet>) =>
  runToEnd(setWords(await shippedFace(font), { ...USUAL, ...how }));
const setOf = (paths: readonly KnotPath[]) => pathSetOf({ name: "", use: "fill", colour: 0 }, paths);
const ringsIn = (paths: readonly KnotPath[]) => ringsOf(setOf(paths), 0.002);

describe("words", () => {
  test.each(SHIPPED_FONTS.map((f) => f.key))("a capital of %s is as high as is asked for", async (font) => {
    const { box, missing, fits } = await set(font, { text: "H" });
    // The last tenth is what letters of curves and swashes reach beyond.
    expect(box!.height).toBeGreaterThan(9.99);
    expect(box!.height).toBeLessThan(font === "script" || font === "blackletter" ? 14 : 10.1);
    expect({ missing, fits }).toEqual({ missing: [], fits: true });
  });

  test("letters that follow one another stand nearer than alone: kerning", async () => {
    const face = await shippedFace("serif");
    const long = (text: string) => lineIn(face, text).reduce((sum, c) => sum + c.advance, 0);
    expect(long("AV")).toBeLessThan(long("A") + long("V") - 0.02);
  });

  test("several letters that are drawn as one stay together, and are set apart with tracking", async () => {
    const face = await shippedFace("serif");
    const [one, apart] = [lineIn(face, "ffi"), lineIn(face, "ffi", true)];
    expect(one.length).toBeLessThan(apart.length);
    expect(apart).toHaveLength(3);
  });

  test("right to left: the first letter is at the right, figures within keep their order", async () => {
    const face = await shippedFace("rounded");
    const order = lineIn(face, "אב 12").map((c) => c.glyphs[0].glyph);
    const [aleph, bet, one, two] = ["א", "ב", "1", "2"].map((c) => lineIn(face, c)[0].glyphs[0].glyph);
    expect(order.filter((g) => [aleph, bet, one, two].includes(g))).toEqual([one, two, bet, aleph]);
  });

  test("tracking adds so much of a capital's height between letters, not after the last", async () => {
    const widths = await Promise.all(
      [0, 50].map(
        async (trackingPercent) => (await set("sign", { text: "HHH", trackingPercent })).box!.width,
      ),
    );
    expect(widths[1] - widths[0]).toBeCloseTo(10, 6);
  });

  test("lines lie leading times a capital apart, the block's middle where it is set", async () => {
    const { box, lines } = await set("grotesque", { text: "H\nH", leading: 2 });
    expect(lines).toEqual(["H", "H"]);
    expect(box!.height).toBeCloseTo(30, 6);
    expect(box!.y + box!.height / 2).toBeCloseTo(0, 6);
  });

  test("aligned left, middle and right of the place", async () => {
    const at = async (align: HowSet["align"]) => (await set("typewriter", { text: "HOH", align })).box!;
    const [left, middle, right] = [await at("left"), await at("middle"), await at("right")];
    expect(left.x).toBeGreaterThan(-1e-9);
    expect(middle.x + middle.width / 2).toBeCloseTo(0, 2);
    expect(right.x + right.width).toBeLessThan(1e-9);
  });

  test("outside a circle feet stand on it, and the words run round clockwise from its top", async () => {
    const { paths } = await set("sign", {
      ...{ text: "H.H", align: "middle", on: { circleMm: 60, side: "outside", spread: false } },
    });
    const points = paths.flatMap((p) => p.knots.map((k) => Math.hypot(...k.at)));
    expect(Math.min(...points)).toBeGreaterThan(29.9);
    expect(Math.max(...points)).toBeLessThan(40.5);
    const box = curveBox(paths)!;
    expect(box.y + box.height).toBeLessThan(-25);
    expect(box.x + box.width / 2).toBeCloseTo(0, 1);
  });

  test("inside a circle heads point to its middle, at its foot", async () => {
    const { paths } = await set("sign", {
      ...{ text: "HHH", align: "middle", on: { circleMm: 60, side: "inside", spread: false } },
    });
    const points = paths.flatMap((p) => p.knots.map((k) => Math.hypot(...k.at)));
    expect(Math.max(...points)).toBeLessThan(30.5);
    expect(Math.min(...points)).toBeGreaterThan(19.5);
    expect(curveBox(paths)!.y).toBeGreaterThan(15);
  });

  test("spread, they fill the whole circle evenly", async () => {
    const { paths, fits } = await set("sign", {
      ...{ text: "IIIIII", align: "middle", on: { circleMm: 60, side: "outside", spread: true } },
    });
    const angles = paths
      .map((p) => curveBox([p])!)
      .map((b) => (Math.atan2(b.y + b.height / 2, b.x + b.width / 2) * 180) / Math.PI)
      .sort((a, b) => a - b);
    const steps = angles.slice(1).map((a, k) => a - angles[k]);
    expect(fits).toBe(true);
    for (const step of steps) expect(step).toBeCloseTo(60, 0);
    const tight = await set("sign", {
      ...{ text: "I".repeat(80), on: { circleMm: 60, side: "outside", spread: true } },
    });
    expect(tight.fits).toBe(false);
  });

  test("along a path they follow it, on its other side when flipped", async () => {
    const path: KnotPath = { knots: [{ at: [0, 0] }, { at: [0, 100] }], closed: false };
    const along = async (flipped: boolean) =>
      (await set("sign", { text: "HH", align: "middle", on: alongPath(path, [0, 50], flipped) })).box!;
    const [right, left] = [await along(false), await along(true)];
    // Downwards, heads are to the right; turned round, to the left.
    expect([right.x, right.width, right.y + right.height / 2].map((v) => Math.round(v * 100) / 100)).toEqual([
      0, 10, 50,
    ]);
    expect(left.x + left.width).toBeCloseTo(0, 6);
  });

  test("letters that lie over one another become one shape, whose area counts what is shared once", async () => {
    const { paths } = await set("script", { text: "minimum" });
    const rings = ringsIn(paths);
    expect(areaOf(evenOdd(rings))).toBeCloseTo(areaOf(joined(rings, [])), 3);
    const outer = rings.length - holesOf(evenOdd(rings)).length;
    // Seven letters hang together; the dots of both i lie by themselves.
    expect(outer).toBe(3);
  });

  test("welded letters keep the curves they have", async () => {
    const face = await shippedFace("script");
    const own = lineIn(face, "mm").reduce(
      (sum, c) => sum + face.outlines(c.glyphs[0].glyph).reduce((n, p) => n + p.knots.length, 0),
      0,
    );
    const { paths } = await set("script", { text: "mm" });
    const knots = paths.reduce((n, p) => n + p.knots.length, 0);
    expect(knots).toBeGreaterThan(own - 20);
    expect(knots).toBeLessThan(own + 12);
  });

  test("single lines are lines: an H is three strokes, as long as they are drawn", async () => {
    const { paths, isLines } = await set("engraver", { text: "H" });
    expect(isLines).toBe(true);
    expect(paths.map((p) => p.closed)).toEqual([false, false, false]);
    const long = flattened(setOf(paths), 0.001).map(lengthOf);
    // Two stems of a capital's height, a bar of two thirds of it.
    expect(long[0]).toBeCloseTo(10, 2);
    expect(long[1]).toBeCloseTo(10, 2);
    expect(long[2]).toBeCloseTo(10 * (14 / 21), 1);
  });

  test("bridges leave no inside of a letter that would drop out", async () => {
    const loose = await set("slab", { text: "ABDOPQR&8", capitalMm: 20 });
    const held = await set("slab", { text: "ABDOPQR&8", capitalMm: 20, bridgeMm: 1 });
    expect(holesOf(evenOdd(ringsIn(loose.paths)))).toHaveLength(12);
    expect(holesOf(evenOdd(ringsIn(held.paths)))).toEqual([]);
    expect(areaOf(evenOdd(ringsIn(held.paths)))).toBeLessThan(areaOf(evenOdd(ringsIn(loose.paths))));
  });

  test("what the font has not is told, letter by letter", async () => {
    expect((await set("blackletter", { text: "Ω☃ A☃" })).missing).toEqual(["Ω", "☃"]);
    expect((await set("serif", { text: "Žaneta Öç — “ñ”" })).missing).toEqual([]);
  });
});

describe("a box", () => {
  const box = { widthMm: 40, heightMm: 12 };
  test("what fits stays as it is", async () => {
    const { capitalMm, fits } = await set("sign", {
      text: "Ada",
      capitalMm: 8,
      box: { ...box, tooLong: "shrink" },
    });
    expect({ capitalMm, fits }).toEqual({ capitalMm: 8, fits: true });
  });
  test("shrunk, the longest name just fits", async () => {
    const made = await set("serif", {
      ...{ text: "Wilhelmina Featherstonehaugh", capitalMm: 8, box: { ...box, tooLong: "shrink" } },
    });
    expect(made.fits).toBe(true);
    expect(made.capitalMm).toBeLessThan(8);
    expect(made.box!.width).toBeCloseTo(40, 4);
    expect(made.box!.height).toBeLessThan(12);
  });
  test("broken, it stands on as many lines as leave it largest", async () => {
    const tall = { widthMm: 40, heightMm: 20, tooLong: "break" as const };
    const made = await set("serif", { text: "Wilhelmina Featherstonehaugh", capitalMm: 8, box: tall });
    const shrunk = await set("serif", {
      ...{ text: "Wilhelmina Featherstonehaugh", capitalMm: 8, box: { ...tall, tooLong: "shrink" } },
    });
    expect(made.lines).toEqual(["Wilhelmina", "Featherstonehaugh"]);
    expect(made.capitalMm).toBeGreaterThan(1.2 * shrunk.capitalMm);
    expect(made.box!.width).toBeLessThan(40.001);
    expect(made.box!.height).toBeLessThan(20.001);
  });
  test("told, it stays as large as it was wished and is said not to fit", async () => {
    const made = await set("serif", {
      ...{ text: "Wilhelmina Featherstonehaugh", capitalMm: 8, box: { ...box, tooLong: "tell" } },
    });
    expect({ fits: made.fits, capitalMm: made.capitalMm }).toEqual({ fits: false, capitalMm: 8 });
  });
});

describe("a font's file", () => {
  const whole = () => FONTS.bytes("typewriter");
  test("those that ship are whole, and have a name", async () => {
    for (const { key, name } of SHIPPED_FONTS) {
      const bytes = await FONTS.bytes(key);
      expect(fontFault(bytes)).toBeNull();
      expect(fontName(bytes)).toContain(name.split(" ")[0]);
    }
  });
  test("cut off anywhere, it is refused with the reason", async () => {
    const bytes = await whole();
    for (const share of [0, 0.0001, 0.001, 0.01, 0.3, 0.7, 0.999])
      expect(fontFault(bytes.subarray(0, Math.floor(bytes.length * share)))).toMatch(/cut off|no font/);
  });
  test("what is no font, packed, a collection, or without outlines is refused with what it is", async () => {
    const headed = (tag: string) =>
      Uint8Array.from([...tag].map((c) => c.charCodeAt(0)).concat(Array(60).fill(0)));
    expect(fontFault(headed("wOF2"))).toMatch(/WOFF/);
    expect(fontFault(headed("ttcf"))).toMatch(/collection/);
    expect(fontFault(headed("\x89PNG"))).toMatch(/no font/);
    const bytes = Uint8Array.from(await whole());
    const at = Buffer.from(bytes).indexOf("glyf");
    bytes.set([0x78], at);
    expect(fontFault(bytes)).toMatch(/no outlines/);
    expect(await readFile(__filename).then((own) => fontFault(own))).toMatch(/no font/);
  });
});
