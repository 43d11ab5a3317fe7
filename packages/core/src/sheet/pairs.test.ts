import { circleRing, ringBox, type Ring } from "../polygon/rings";
import { seeded } from "../maths/seeded";
import { checkSheet } from "./checks";
import { placed, type NestPiece, type Placing } from "./arrangement";
import { overlap } from "./noFit";
import { pairsNear } from "./pairs";
import { readSheetBody } from "./sheetFile";

const piece = (outline: Ring): NestPiece => ({
  ...{ outline, box: ringBox(outline), count: 20000, turns: [0, 90, 180, 270], mirror: false },
});
const star = Float64Array.from({ length: 24 }, (_, k) => {
  const [angle, radius] = [((k >> 1) * Math.PI) / 6, (k >> 1) % 2 ? 4 : 10];
  return 10 + radius * (k % 2 ? Math.sin(angle) : Math.cos(angle));
});
const at = (xMm: number, yMm: number, of = 0, turnDegrees = 0, sheet = 0): Placing => ({
  ...{ piece: of, sheet, xMm, yMm, turnDegrees, mirrored: false },
});

test("the pairs are those that a look at every two finds", () => {
  const pieces = [
    piece(star),
    piece(circleRing(6, 6, 6, 0.01)),
    piece(Float64Array.of(0, 0, 60, 1, 60, 2, 0, 1)),
  ];
  const chance = seeded(5);
  for (let round = 0; round < 20; round++) {
    const placings = Array.from({ length: 60 }, () =>
      at(
        ...([
          150 * chance(),
          150 * chance(),
          Math.floor(3 * chance()),
          45 * Math.floor(8 * chance()),
        ] as const),
        Math.floor(2 * chance()),
      ),
    );
    const rings = placings.map((p) => placed(pieces[p.piece], p));
    const wanted: string[] = [];
    for (let a = 0; a < rings.length; a++)
      for (let b = a + 1; b < rings.length; b++)
        if (placings[a].sheet === placings[b].sheet && overlap(rings[a], rings[b])) wanted.push(`${a} ${b}`);
    const { found, whole } = pairsNear(pieces, placings, rings.map(ringBox), 0);
    const names = found.map(({ a, b }) => `${Math.min(a, b)} ${Math.max(a, b)}`);
    expect([...names].sort()).toEqual(wanted.sort());
    expect(whole).toBe(true);
  }
});

test("what comes too near by a hair is found, what keeps its distance is not, and what is on one place lies over", () => {
  const pieces = [piece(circleRing(5, 5, 5, 0.0005))];
  const how = (dx: number) => {
    const placings = [at(50, 50), at(50 + dx, 50)];
    const boxes = placings.map((p) => ringBox(placed(pieces[0], p)));
    return pairsNear(pieces, placings, boxes, 2).found.map((p) => p.over);
  };
  expect([how(12.01), how(11.99), how(10.01), how(9.99), how(0)]).toEqual([
    [],
    [false],
    [false],
    [true],
    [true],
  ]);
});

const stock = { widthMm: 5000, heightMm: 20000 };

test("twenty thousand copies on one place are told without looking at every two", () => {
  const settings = readSheetBody({ stock, spacingMm: 2 });
  const placings = Array.from({ length: 20000 }, () => at(100, 100));
  const overlaps = checkSheet([piece(star)], placings, settings, 20000).find((c) => c.id === "sheetOverlap")!;
  expect(overlaps).toMatchObject({ level: "stop", value: 1000 });
  expect(overlaps.detail).toMatch(/1000 or more pairs/);
});

test("ten thousand copies that lie well are fine, whichever way each lies", () => {
  const settings = readSheetBody({ stock, spacingMm: 2 });
  const chance = seeded(2);
  const placings = Array.from({ length: 10000 }, (_, k) =>
    at(
      30 + 24 * (k % 100) + chance(),
      30 + 24 * Math.floor(k / 100) + chance(),
      0,
      90 * Math.floor(4 * chance()),
    ),
  );
  const checks = checkSheet([piece(star)], placings, settings, 10000);
  expect(checks.find((c) => c.id === "sheetOverlap")).toMatchObject({ level: "fine", value: 0 });
});

test("outlines that are too much to hold against each other are told as not looked at", () => {
  // Thin slanting strips with rough edges: all their boxes meet, and none of them do.
  const comb = Float64Array.from({ length: 4000 }, (_, k) => {
    const j = k >> 1;
    const t = j < 1000 ? j : 1999 - j;
    const rough = 0.2 * (j % 2);
    return k % 2 ? t + (j < 1000 ? 0 : 0.6) + rough : t - rough;
  });
  const chance = seeded(9);
  const placings = Array.from({ length: 400 }, (_, k) => at(600 + 2 * k, 600 + 0.1 * chance()));
  const checks = checkSheet([piece(comb)], placings, readSheetBody({ stock, spacingMm: 0 }), 400);
  const overlaps = checks.find((c) => c.id === "sheetOverlap")!;
  expect(overlaps.level).toBe("look");
  expect(overlaps.text).toBe("Too many outlines to look at them all");
});
