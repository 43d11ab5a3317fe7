import { findMark, fitPose, posedAt, type FoundMark, type Pose, type Sight } from "./camera";
import { markEntry, type MarkEntry } from "./markEntry";
import { seeded } from "../maths/seeded";
import { markPlaces } from "../sheet/marks";

/** Two hundred by night. */
const SHEETS = Number(process.env.SHEETS ?? 60);
const MM = 0.1;
const SIDE = 116;

/** What the camera sees of a bed about a place: a mark of a sheet that lies some way, uneven light, noise, smudges. */
function sight(
  entry: MarkEntry,
  at: readonly [number, number],
  about: readonly [number, number],
  turn: number,
  chance: () => number,
  smudge: number,
): Sight {
  const { shape, sizeMm } = entry;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  /** How far outside of the mark a place is, in mm. */
  const outside = (x: number, y: number): number => {
    const [dx, dy] = [x - at[0], y - at[1]];
    const [u, v] = [Math.abs(cos * dx + sin * dy), Math.abs(-sin * dx + cos * dy)];
    if (shape === "disc") return Math.hypot(dx, dy) - sizeMm / 2;
    const square = Math.max(u, v) - sizeMm / 2;
    return shape === "square" ? square : Math.max(square, Math.min(u, v) - sizeMm / 10);
  };
  const spot = [at[0] + (chance() - 0.5) * 5, at[1] + (chance() - 0.5) * 5] as const;
  const ofSmudge = (x: number, y: number) =>
    smudge > 0 ? Math.hypot(x - spot[0], y - spot[1]) - smudge : Infinity;
  const [xMm, yMm] = [about[0] - (SIDE * MM) / 2, about[1] - (SIDE * MM) / 2];
  const [lx, ly] = [chance() - 0.5, chance() - 0.5];
  const data = new Uint8Array(SIDE * SIDE);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const [u, v] = [xMm + (x + 0.5) * MM, yMm + (y + 0.5) * MM];
      const dark = Math.max(0, Math.min(1, 0.5 - Math.min(outside(u, v), ofSmudge(u, v)) / MM));
      const light = 215 * (1 + 0.25 * lx * (x / SIDE - 0.5) + 0.25 * ly * (y / SIDE - 0.5));
      const noise = 14 * (chance() + chance() + chance() - 1.5);
      data[y * SIDE + x] = Math.max(0, Math.min(255, Math.round(light * (1 - 0.82 * dark) + noise)));
    }
  return { picture: { width: SIDE, height: SIDE, data }, xMm, yMm, mmPerPixel: MM };
}

test("an affine pose is found from its marks exactly, by hand", () => {
  const pose: Pose = [1.01, 0.02, 5, -0.015, 0.99, 7];
  const places = markPlaces(markEntry.parse({}), { widthMm: 300, heightMm: 200 });
  const found = places.map(([x, y]): FoundMark => {
    const [xMm, yMm] = posedAt(pose, x, y);
    return { xMm, yMm, likeness: 1 };
  });
  const fitted = fitPose(places, found)!;
  fitted.pose.forEach((v, k) => expect(v).toBeCloseTo(pose[k], 9));
  expect(fitted.used).toEqual([0, 1, 2, 3]);
});

test("fewer than three marks say nothing, nor do marks in one line", () => {
  const mark = { xMm: 0, yMm: 0, likeness: 1 };
  expect(
    fitPose(
      [
        [0, 0],
        [1, 0],
        [2, 0],
      ],
      [mark, mark, null],
    ),
  ).toBeNull();
  expect(
    fitPose(
      [
        [0, 0],
        [10, 0],
        [20, 0],
      ],
      [0, 10, 20].map((xMm) => ({ xMm, yMm: 0, likeness: 1 })),
    ),
  ).toBeNull();
});

test("nothing like a mark: none is found", () => {
  const chance = seeded(3);
  const { picture, ...place } = sight(markEntry.parse({}), [0, 0], [0, 0], 0, chance, 0);
  const bare = { ...picture, data: picture.data.map(() => 180 + Math.round(30 * chance())) };
  expect(findMark({ ...place, picture: bare }, markEntry.parse({}))).toBeNull();
});

describe.each(["disc", "square", "cross"] as const)("random sheets with marks as a %s", (shape) => {
  const sheets = shape === "disc" ? SHEETS : 8;
  test.each([6, 4] as const)(
    "%i marks, one of them smudged; turned, shifted, stretched, noisy: nowhere off by more than 0.1 mm",
    (marks) => {
      const entry = markEntry.parse({ shape, count: marks });
      const sheet = { widthMm: 320, heightMm: 450 };
      const places = markPlaces(entry, sheet);
      const worst: number[] = [];
      for (let k = 0; k < (marks === 6 ? sheets : sheets / 4); k++) {
        const chance = seeded(1000 + 77 * k);
        const turn = ((chance() - 0.5) * 4 * Math.PI) / 180;
        const [sx, sy] = [1 + (chance() - 0.5) * 0.01, 1 + (chance() - 0.5) * 0.01];
        const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
        const [tx, ty] = [6 * (chance() - 0.5), 6 * (chance() - 0.5)];
        // About its middle, so that a mark stays within what the camera sees of where it is looked for.
        const [mx, my] = [sheet.widthMm / 2, sheet.heightMm / 2];
        const pose: Pose = [
          ...[cos * sx, -sin * sy, mx - cos * sx * mx + sin * sy * my + tx],
          ...[sin * sx, cos * sy, my - sin * sx * mx - cos * sy * my + ty],
        ] as unknown as Pose;
        const smudged = Math.floor(chance() * places.length);
        const found = places.map((place, j) => {
          const at = posedAt(pose, ...place);
          const about = [at[0] + (chance() - 0.5) * 5, at[1] + (chance() - 0.5) * 5] as const;
          return findMark(
            sight(entry, at, about, turn, chance, j === smudged ? 1 + 1.5 * chance() : 0),
            entry,
          );
        });
        const fitted = fitPose(places, found);
        expect(fitted).not.toBeNull();
        let off = 0;
        for (const [x, y] of [
          [0, 0],
          [320, 0],
          [0, 450],
          [320, 450],
          [160, 225],
        ] as const) {
          const [a, b] = [posedAt(pose, x, y), posedAt(fitted!.pose, x, y)];
          off = Math.max(off, Math.hypot(a[0] - b[0], a[1] - b[1]));
        }
        worst.push(off);
      }
      expect(Math.max(...worst)).toBeLessThan(0.1);
    },
  );
});
