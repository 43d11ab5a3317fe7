import { codesOf, labOfLight, oklabOf } from "../colour/oklab";
import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { runToEnd } from "../maths/work";
import { randomRgba } from "../testing/pictures";
import { colourChange, type ColourChange } from "./change";
import { awayFrom } from "./away";
import { rangeOf } from "./range";
import { proposeRange } from "./proposeRange";
import { changedColour, recoloured } from "./recolour";

const change = (given: object): ColourChange => colourChange.parse(given);
const number = (hex: string): number => parseInt(hex.slice(1), 16);
const shadedCodes = (hex: string, shade: number): number[] =>
  codesOf(hex).map(
    (code) => CODE_OF_LINEAR[Math.round(Math.min(1, LINEAR_OF_CODE[code] * shade) * CODE_STEPS)],
  );
const asNumber = ([r, g, b]: readonly number[]): number => (r << 16) | (g << 8) | b;
const codesIn = (n: number): number[] => [n >> 16, (n >> 8) & 255, n & 255];

test("a colour becomes another with the same light and shade on it", () => {
  const of = changedColour([change({ from: "#c03028", to: { colour: "#2860b0" } })]);
  expect(of(0xc03028)).toBe(0x2860b0);
  for (let shade = 0.08; shade <= 1.3; shade += 0.02) {
    const [got, want] = [codesIn(of(asNumber(shadedCodes("#c03028", shade)))), shadedCodes("#2860b0", shade)];
    got.forEach((v, c) => expect(Math.abs(v - want[c])).toBeLessThanOrEqual(3));
  }
});

test("shine over a colour stays white shine over the new one", () => {
  const of = changedColour([change({ from: "#8c1f2b", tolerance: 40, to: { colour: "#1f5c2e" } })]);
  const [own, next] = [codesOf("#8c1f2b"), codesOf("#1f5c2e")];
  for (const shine of [0.05, 0.1, 0.2]) {
    const shone = (codes: readonly number[]) =>
      codes.map((code) => CODE_OF_LINEAR[Math.round((LINEAR_OF_CODE[code] * 0.8 + shine) * CODE_STEPS)]);
    const got = codesIn(of(asNumber(shone(own))));
    shone(next).forEach((v, c) => expect(Math.abs(v - got[c])).toBeLessThanOrEqual(2));
  }
});

test("what no range takes comes out to the bit, and so does all transparency", () => {
  const art = randomRgba(64, 64, 5);
  const none = runToEnd(recoloured(art, []));
  expect(none).toBe(art);
  const narrow = [change({ from: "#ff00ff", tolerance: 0, softness: 0, to: { colour: "#000000" } })];
  expect(runToEnd(recoloured(art, narrow)).data).toEqual(art.data);
  const wide = [change({ from: "#c03028", tolerance: 12, softness: 8, to: { colour: "#2860b0" } })];
  const out = runToEnd(recoloured(art, wide)).data;
  const of = changedColour(wide);
  const code = (data: Uint8Array, i: number) => asNumber([...data.subarray(4 * i, 4 * i + 3)]);
  const isIn = (i: number) => of(code(art.data, i)) !== code(art.data, i);
  let changed = 0;
  for (let i = 0; i < 64 * 64; i++) {
    expect(out[4 * i + 3]).toBe(art.data[4 * i + 3]);
    if (art.data[4 * i + 3] === 0) expect(code(out, i)).toBe(code(art.data, i));
    // A pixel at the edge of the range may be part of it; one with nothing of it about it is not.
    const about = [-65, -64, -63, -1, 0, 1, 63, 64, 65].some((d) => isIn(Math.max(0, Math.min(4095, i + d))));
    if (!about) expect(code(out, i)).toBe(code(art.data, i));
    if (code(out, i) !== code(art.data, i)) changed++;
  }
  expect(changed).toBeGreaterThan(20);
  expect(changed).toBeLessThan(1500);
});

test("grey stays grey, however a range of colours is changed", () => {
  for (const to of [{ colour: "#20a050" }, { hue: 120, saturation: 2, lightness: 0.3 }]) {
    const of = changedColour([change({ from: "#c03028", tolerance: 100, softness: 0, to })]);
    for (let g = 0; g < 256; g++) expect(of(g * 0x10101)).toBe(g * 0x10101);
  }
});

test("white and black are ranges of their own, and take their shading along", () => {
  const white = changedColour([change({ from: "#ffffff", tolerance: 60, to: { colour: "#1b2a4a" } })]);
  expect(white(0xffffff)).toBe(0x1b2a4a);
  const want = shadedCodes("#1b2a4a", 0.6);
  codesIn(white(asNumber(shadedCodes("#ffffff", 0.6)))).forEach((v, c) =>
    expect(Math.abs(v - want[c])).toBeLessThanOrEqual(1),
  );
  const black = changedColour([change({ from: "#000000", tolerance: 30, to: { colour: "#b02018" } })]);
  expect(black(0x000000)).toBe(0xb02018);
  expect(black(0xffffff)).toBe(0xffffff);
});

test("hue, saturation and lightness are moved as asked, and only as far as a screen can show", () => {
  const turn = changedColour([change({ from: "#a04048", tolerance: 20, to: { hue: 120 } })]);
  const [was, now] = [
    oklabOf(...codesOf("#a04048")),
    oklabOf(...(codesIn(turn(0xa04048)) as [number, number, number])),
  ];
  expect(Math.abs(now.l - was.l)).toBeLessThan(0.6);
  // The two axes turned by 120 degrees: cos = -1/2, sin = 0.8660.
  expect(Math.abs(now.a - (-was.a / 2 - 0.866 * was.b))).toBeLessThan(0.6);
  expect(Math.abs(now.b - (0.866 * was.a - was.b / 2))).toBeLessThan(0.6);
  const grey = changedColour([change({ from: "#a04048", tolerance: 20, to: { saturation: 0 } })]);
  const [r, g, b] = codesIn(grey(0xa04048));
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1);
  const loud = changedColour([change({ from: "#0000ff", tolerance: 20, to: { hue: 100, saturation: 4 } })]);
  const lab = oklabOf(...(codesIn(loud(0x0000ff)) as [number, number, number]));
  expect(Math.abs(lab.l - oklabOf(0, 0, 255).l)).toBeLessThan(1);
});

test("ranges that overlap are settled in order", () => {
  const first = change({ from: "#c03028", tolerance: 10, softness: 0, to: { colour: "#ffffff" } });
  const second = change({ from: "#c03028", tolerance: 30, softness: 0, to: { colour: "#000000" } });
  expect(changedColour([first, second])(0xc03028)).toBe(0xffffff);
  expect(changedColour([second, first])(0xc03028)).toBe(0x000000);
  // The second range takes only what the first left.
  expect(changedColour([first, second])(number("#c06038"))).not.toBe(0xffffff);
});

test("from the middle of a range to its outside there is no step", () => {
  const of = changedColour([
    change({ from: "#c03028", tolerance: 8, softness: 12, to: { colour: "#2860b0" } }),
  ]);
  // From the colour to a grey as light, in 400 steps.
  let last = codesIn(of(0xc03028));
  for (let k = 1; k <= 400; k++) {
    const at = [0xc0, 0x30, 0x28].map((v) => Math.round(v + ((0x70 - v) * k) / 400));
    const now = codesIn(of(asNumber(at)));
    now.forEach((v, c) => expect(Math.abs(v - last[c])).toBeLessThanOrEqual(14));
    last = now;
  }
});

test("at an edge the mixture of two colours changes by its own share, and no rim is left", () => {
  const [part, beside, next] = [codesOf("#a03038"), codesOf("#e8e0c8"), codesOf("#2a5fa8")];
  const lin = (c: readonly number[]) => c.map((v) => LINEAR_OF_CODE[v]);
  const mixed = (a: readonly number[], b: readonly number[], share: number) =>
    lin(a).map((v, c) => CODE_OF_LINEAR[Math.round((share * v + (1 - share) * lin(b)[c]) * CODE_STEPS)]);
  const data = new Uint8Array(4 * 12 * 5);
  for (let y = 0; y < 5; y++)
    for (let x = 0; x < 12; x++) {
      const share = x < 5 ? 1 : x > 5 ? 0 : (y + 0.5) / 5;
      data.set([...mixed(part, beside, share), 255], 4 * (12 * y + x));
    }
  const wish = [change({ from: "#a03038", to: { colour: "#2a5fa8" } })];
  const out = runToEnd(recoloured({ width: 12, height: 5, data }, wish)).data;
  // Of a pixel that is mostly of the part, the rest may pass for shine on it.
  for (let y = 0; y < 5; y++)
    for (let x = 0; x < 12; x++) {
      const share = x < 5 ? 1 : x > 5 ? 0 : (y + 0.5) / 5;
      mixed(next, beside, share).forEach((v, c) =>
        expect(Math.abs(v - out[4 * (12 * y + x) + c])).toBeLessThanOrEqual(
          share > 0.5 && share < 1 ? 10 : 6,
        ),
      );
    }
});

test("how far a range goes is proposed by what is in the picture", () => {
  const data = new Uint8Array(4 * 64 * 64);
  for (let i = 0; i < 64 * 64; i++) {
    const shade = 0.5 + (0.5 * (i % 64)) / 64;
    data.set([...shadedCodes(i < 2048 ? "#a03038" : "#a06030", shade), 255], 4 * i);
  }
  const picture = { width: 64, height: 64, data };
  const range = proposeRange(picture, "#a03038");
  const of = changedColour([change({ from: "#a03038", ...range, to: { colour: "#2a5fa8" } })]);
  expect(of(asNumber(shadedCodes("#a03038", 0.6)))).not.toBe(asNumber(shadedCodes("#a03038", 0.6)));
  for (const shade of [0.5, 0.7, 0.95])
    expect(of(asNumber(shadedCodes("#a06030", shade)))).toBe(asNumber(shadedCodes("#a06030", shade)));
});

test("the table of what is surely away is never wrong", () => {
  const random = randomRgba(80, 80, 9, true).data;
  for (const from of ["#c03028", "#e0d050", "#3060a0", "#408050"]) {
    const one = change({ from, tolerance: 9, softness: 5, to: { colour: "#000000" } });
    const [away, range] = [awayFrom(one)!, rangeOf(one)];
    let told = 0;
    for (let o = 0; o < random.length; o += 4) {
      const [r, g, b] = [0, 1, 2].map((c) => LINEAR_OF_CODE[random[o + c]]);
      if (!away(r, g, b)) continue;
      told++;
      expect(range(labOfLight(r, g, b))).toBe(0);
    }
    expect(told).toBeGreaterThan(2000);
  }
  expect(awayFrom(change({ from: "#808080", to: { colour: "#000000" } }))).toBeNull();
});

test("nonsense is refused with what is allowed", () => {
  expect(colourChange.safeParse({ from: "red", to: { colour: "#000000" } }).success).toBe(false);
  expect(colourChange.safeParse({ from: "#ff0000", tolerance: -1, to: { hue: 3 } }).success).toBe(false);
  expect(colourChange.safeParse({ from: "#ff0000", to: { hue: 3, colour: "#000000" } }).success).toBe(false);
});
