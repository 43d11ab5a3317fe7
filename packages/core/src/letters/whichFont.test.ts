import { runToEnd } from "../maths/work";
import { affinePath, shift } from "../path/affine";
import { type KnotPath } from "../path/pathSet";
import { shippedFace } from "../testing/shippedFont";
import { lineIn } from "./line";
import { SHIPPED_FONTS } from "./shipped";
import { whichFont } from "./whichFont";
import { setWords } from "./words";

const OUTLINED = SHIPPED_FONTS.map((f) => f.key).filter((key) => key !== "engraver");
const faces = () => Promise.all(OUTLINED.map(async (key) => [key, await shippedFace(key)] as const));

/** Letters of a word, each its outlines. */
async function lettersOf(font: string, word: string, capitalMm = 8): Promise<KnotPath[][]> {
  const face = await shippedFace(font);
  let at = 0;
  return lineIn(face, word).map(({ advance }, k) => {
    const how = { text: [...word][k], capitalMm, trackingPercent: 0, leading: 1, bridgeMm: 0 } as const;
    const { paths } = runToEnd(setWords(face, { ...how, align: "left" }));
    const moved = paths.map((path) => affinePath(path, shift(at, 0)));
    // Set apart: letters that touch are one shape in a trace.
    at += (1.7 * advance * capitalMm) / face.capital;
    return moved;
  });
}

test.each(OUTLINED)("letters of %s are known for it, and read", async (font) => {
  const [first] = runToEnd(whichFont(await lettersOf(font, "Hamburg"), await faces()));
  expect(first.font).toBe(font);
  expect(first.alike).toBeGreaterThan(0.85);
  expect(first.read.toLowerCase().replace(/ /g, "")).toBe("hamburg");
  expect(first.capitalMm).toBeCloseTo(8, 1);
});

test("an i and its dot are one letter", async () => {
  const shapes = (await lettersOf("sign", "Fi")).flatMap((letter) => letter.map((path) => [path]));
  const [first] = runToEnd(whichFont(shapes, await faces()));
  expect(first.read.replace(/ /g, "")).toBe("Fi");
});

test("of no letters nothing is said to be alike", async () => {
  expect(runToEnd(whichFont([], await faces()))[0].alike).toBe(0);
});
