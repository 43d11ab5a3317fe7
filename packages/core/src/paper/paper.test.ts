import { runToEnd } from "../maths/work";
import { NO_TURN, turnedSize } from "../turn/turn";
import { placeAfter, placeBefore } from "../turn/turnedPlace";
import { type Rgba } from "../raster/types";
import { turned } from "../turn/turned";
import { curledPage } from "./curled";
import { evenLight } from "./evenLight";
import { findPaper } from "./findPaper";
import { flatPaper } from "./flat";
import { Lens, type Point } from "./lens";
import { knownPaper, toldBy } from "./proportion";
import { paperSettings, type Paper } from "./settings";

const SIZE = { width: 640, height: 480 };
const paper = (corners: readonly Point[], more: Partial<Paper> = {}): Paper => ({
  ...{ corners: corners as unknown as Paper["corners"], lens: 0, light: false },
  ...more,
});
const away = (a: readonly number[], b: readonly number[]): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
const written = (write: (x: number, y: number, to: Float64Array) => void, x: number, y: number): number[] => {
  const to = new Float64Array(2);
  write(x, y, to);
  return [...to];
};
const seeded = (seed: number) => () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;

describe("a lens", () => {
  test("moves by the square of the distance from the middle", () => {
    // the corner is one half diagonal away: 10 % nearer
    expect(new Lens(SIZE, -0.1).seen([640, 480]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([608, 456]);
    // half way there: a quarter of that
    expect(new Lens(SIZE, -0.1).seen([480, 360])[0]).toBeCloseTo(320 + 160 * 0.975, 9);
    expect(new Lens(SIZE, 0).seen([13, 77])).toEqual([13, 77]);
  });

  test.each([-0.2, -0.05, 0.03, 0.2])("bent by %d, is made straight again", (bend) => {
    const lens = new Lens(SIZE, bend);
    for (const p of [
      [5, 9],
      [320, 240],
      [600, 40],
      [333, 470],
    ] as const)
      expect(away(lens.straight(lens.seen(p)), p)).toBeLessThan(1e-6);
  });
});

/** A camera that looks at a plane askew: where a place on the plane, in mm, is seen. */
function camera(focal: number, tilt: number, turn: number, far: number) {
  const [c, s, ct, st] = [Math.cos(tilt), Math.sin(tilt), Math.cos(turn), Math.sin(turn)];
  return (x: number, y: number, z = 0): Point => {
    const [u, v] = [x * ct - y * st, x * st + y * ct];
    const [py, pz] = [v * c - z * s, far + v * s + z * c];
    return [SIZE.width / 2 + (focal * u) / pz, SIZE.height / 2 + (focal * py) / pz];
  };
}
const cornersOf = (w: number, h: number, seen: (x: number, y: number) => Point): Point[] => [
  seen(-w / 2, -h / 2),
  seen(w / 2, -h / 2),
  seen(w / 2, h / 2),
  seen(-w / 2, h / 2),
];
const shares = (points: readonly Point[]): Point[] =>
  points.map(([x, y]) => [x / SIZE.width, y / SIZE.height]);

test.each([
  [210, 297, 600, 0.5, 0.3],
  [85, 55, 520, -0.6, 0.2],
  [85, 55, 900, 0.4, -0.7],
])("the corners of %d x %d tell its proportion and the focal length", (w, h, focal, tilt, turn) => {
  const told = toldBy(cornersOf(w, h, camera(focal, tilt, turn, 500)), SIZE);
  expect(told.proportion).toBeCloseTo(w / h, 6);
  expect(told.focal).toBeCloseTo(focal, 3);
});

test("seen from straight above, the sides tell the proportion and nothing tells the focal length", () => {
  const told = toldBy(cornersOf(150, 70, camera(600, 0, 0.4, 500)), SIZE);
  expect(told.proportion).toBeCloseTo(150 / 70, 9);
  expect(told.focal).toBeNull();
});

test.each([
  [0.71, "A4 and its kin"],
  [1.41, "A4 and its kin"],
  [1.54, "Card, 85 × 55"],
  [1.3, "Letter"],
  [1.9, undefined],
])("%d is %s", (proportion, name) => {
  expect(knownPaper(proportion)?.name).toBe(name);
});

describe("a paper made flat", () => {
  const seen = camera(700, 0.5, 0.2, 520);
  const corners = cornersOf(200, 140, seen);
  const flat = flatPaper(SIZE, paper(shares(corners)));

  test("has its proportion, and no fewer pixels than its longer edges", () => {
    expect(flat.width / flat.height).toBeCloseTo(200 / 140, 2);
    expect(flat.width).toBeGreaterThanOrEqual(Math.floor(away(corners[2], corners[3])));
    expect(flat.height).toBeGreaterThanOrEqual(Math.floor(away(corners[1], corners[2])));
  });

  test("has each of its places where the camera saw it", () => {
    for (const [u, v] of [
      [0, 0],
      [0.5, 0.5],
      [0.25, 0.8],
      [1, 1],
    ])
      expect(
        away(
          written(flat.onPhotograph, u * flat.width, v * flat.height),
          seen(-100 + 200 * u, -70 + 140 * v),
        ),
      ).toBeLessThan(0.3); // its height is a whole number of pixels
  });

  test("a known proportion counts", () => {
    const { width, height } = flatPaper(SIZE, paper(shares(corners), { proportion: 2 }));
    expect(width / height).toBeCloseTo(2, 2);
  });
});

describe("a curled page", () => {
  const focal = 700;
  const seen = camera(focal, 0.5, 0.15, 520);

  test("that is flat after all is as its corners have it", () => {
    const [a, b, c, d] = cornersOf(200, 140, seen);
    const part = (p: Point, q: Point, t: number): Point => [
      p[0] + t * (q[0] - p[0]),
      p[1] + t * (q[1] - p[1]),
    ];
    const edge = (p: Point, q: Point) => [p, part(p, q, 0.3), part(p, q, 0.7), q];
    const page = curledPage(edge(a, b), edge(d, c), SIZE, focal);
    expect(page.proportion).toBeCloseTo(200 / 140, 4);
    for (const [u, v] of [
      [0.2, 0.1],
      [0.5, 0.5],
      [0.9, 0.7],
    ])
      expect(away(written(page.write, u, v), seen(-100 + 200 * u, -70 + 140 * v))).toBeLessThan(0.01);
  });

  test("over part of a circle is as long as that arc", () => {
    // 200 mm of paper on a cylinder of 150 mm, towards the camera in its middle
    const [length, radius, height] = [200, 150, 140];
    const half = length / radius / 2;
    const on = (u: number, v: number): Point => {
      const angle = (2 * u - 1) * half;
      return seen(radius * Math.sin(angle), height * (v - 0.5), -radius * (Math.cos(angle) - Math.cos(half)));
    };
    const edge = (v: number) => [0, 0.33, 0.67, 1].map((u) => on(u, v));
    const page = curledPage(edge(0), edge(1), SIZE, focal);
    expect(page.proportion / (length / height)).toBeCloseTo(1, 2);
    const offs = [0.1, 0.3, 0.5, 0.7, 0.9].flatMap((u) =>
      [0.1, 0.5, 0.9].map((v) => away(written(page.write, u, v), on(u, v))),
    );
    expect(Math.max(...offs)).toBeLessThan(1);
  });
});

/** A paper of one grey on another, its rim soft by a pixel, with grain. */
function drawn(corners: readonly Point[], ground = 60, sheet = 225, grain = 6): Rgba {
  const { width, height } = SIZE;
  const data = new Uint8Array(width * height * 4).fill(255);
  const random = seeded(5);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const within = Math.min(
        ...corners.map(([ax, ay], k) => {
          const [bx, by] = corners[(k + 1) % 4];
          return ((bx - ax) * (y + 0.5 - ay) - (by - ay) * (x + 0.5 - ax)) / away([ax, ay], [bx, by]);
        }),
      );
      const cover = Math.min(1, Math.max(0, within + 0.5));
      const grey = ground + cover * (sheet - ground) + grain * (random() - 0.5);
      data.fill(Math.round(grey), (y * width + x) * 4, (y * width + x) * 4 + 3);
    }
  return { width, height, data };
}

describe("finding", () => {
  test.each([
    ["a pale one on a dark table", 60, 225],
    ["a dark one on a pale table", 210, 50],
    ["one that hardly differs", 150, 172],
  ])("%s, within a tenth of a pixel", (_what, ground, sheet) => {
    const corners = cornersOf(200, 140, camera(700, 0.45, 0.2, 520));
    const found = runToEnd(findPaper(drawn(corners, ground, sheet)));
    const px = found!.corners.map(([u, v]) => [u * SIZE.width, v * SIZE.height]);
    px.forEach((p, k) => expect(away(p, corners[k])).toBeLessThan(0.15));
    expect(found!.lens).toBe(0);
  });

  test.each([
    ["one grey", drawn([], 120, 120, 0)],
    ["grain alone", drawn([], 120, 120, 60)],
    ["a single pixel", { width: 1, height: 1, data: new Uint8Array([1, 2, 3, 255]) }],
    ["a line of pixels", { width: 300, height: 2, data: new Uint8Array(2400).fill(90) }],
  ])("nothing on %s", (_what, picture) => {
    expect(runToEnd(findPaper(picture))).toBeNull();
  });
});

test("paper and straightening are one resampling, and places go there and back", () => {
  const turn = {
    ...{ straighten: 7, turn: 90 as const, mirror: true },
    paper: paper(shares(cornersOf(200, 140, camera(700, 0.5, 0.2, 520))), { lens: -0.04 }),
  };
  const [before, after] = [placeBefore(SIZE, turn), placeAfter(SIZE, turn)];
  for (const place of [
    [0.5, 0.5],
    [0.2, 0.7],
    [0.85, 0.3],
  ] as const)
    expect(away(after(before(place)), place)).toBeLessThan(1e-7);
  const picture = drawn(cornersOf(200, 140, camera(700, 0.5, 0.2, 520)));
  const out = runToEnd(turned(picture, turn));
  expect([out.width, out.height]).toEqual([turnedSize(SIZE, turn).width, turnedSize(SIZE, turn).height]);
});

test("the pixel that is seen at a place is the one that the photograph has there", () => {
  // a picture whose red and green say where a pixel is
  const data = new Uint8Array(200 * 100 * 4).fill(255);
  for (let i = 0; i < 20000; i++) data.set([(i % 200) + 20, Math.floor(i / 200) + 20, 0], 4 * i);
  const picture = { width: 200, height: 100, data };
  for (const quarter of [0, 90, 180, 270] as const) {
    const turn = {
      ...{ ...NO_TURN, turn: quarter, mirror: quarter === 90 },
      paper: paper([
        [0.2, 0.2],
        [0.8, 0.3],
        [0.9, 0.9],
        [0.1, 0.8],
      ]),
    };
    const out = runToEnd(turned(picture, turn));
    const before = placeBefore(picture, turn);
    for (const [x, y] of [
      [10, 12],
      [60, 40],
    ]) {
      const [u, v] = before([(x + 0.5) / out.width, (y + 0.5) / out.height]);
      const at = (y * out.width + x) * 4;
      // light is mixed, not codes: within a code
      expect(Math.abs(out.data[at] - (u * 200 - 0.5 + 20))).toBeLessThan(1.2);
      expect(Math.abs(out.data[at + 1] - (v * 100 - 0.5 + 20))).toBeLessThan(1.2);
    }
  }
});

test("light that falls off over a paper is evened to its rim, and ink stays as dark for its paper as it was", () => {
  const [width, height] = [400, 299]; // its last row of tiles is one pixel high
  const data = new Uint8Array(width * height * 4).fill(255);
  const light = (x: number) => 1 - (0.5 * x) / width;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const ink = y % 60 < 6 && x % 50 < 30;
      data.fill(Math.round(240 * light(x) * (ink ? 0.2 : 1)), (y * width + x) * 4, (y * width + x) * 4 + 3);
    }
  const out = runToEnd(evenLight({ width, height, data }));
  const at = (x: number, y: number): number => out.data[(y * width + x) * 4];
  const grounds = [3, 100, 200, 300, 396].flatMap((x) => [20, 40, 150, height - 1].map((y) => at(x, y)));
  expect(Math.max(...grounds) - Math.min(...grounds)).toBeLessThanOrEqual(8);
  expect(
    Math.max(at(5, 63), at(205, 63), at(365, 63)) - Math.min(at(5, 63), at(205, 63), at(365, 63)),
  ).toBeLessThan(8);
  expect(at(205, 63) / at(235, 63)).toBeCloseTo(0.2, 1); // beside it, on the same row
});

test.each([
  [
    {
      corners: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
    },
    /corners/,
  ],
  [
    {
      corners: [
        [0, 0],
        [1, 1],
        [1, 0],
        [0, 1],
      ],
    },
    /clockwise/,
  ],
  [
    {
      corners: [
        [0, 0],
        [0, 1],
        [1, 1],
        [1, 0],
      ],
    },
    /clockwise/,
  ],
  [
    {
      corners: [
        [0, 0],
        [0.5, 0],
        [1, 0],
        [0, 1],
      ],
    },
    /clockwise/,
  ],
  [
    {
      corners: [
        [0, 0],
        [1, 0],
        [0.2, 0.2],
        [0, 1],
      ],
    },
    /inwards/,
  ],
  [
    {
      corners: [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
      lens: 0.5,
    },
    /0.25/,
  ],
  [
    {
      corners: [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
      proportion: 0,
    },
    /0.05/,
  ],
  [
    {
      corners: [
        [0, 0],
        [NaN, 0],
        [1, 1],
        [0, 1],
      ],
    },
    /corners/,
  ],
])("settings that make no paper are refused: %j", (settings, reason) => {
  const { success, error } = paperSettings.safeParse(settings);
  expect(success).toBe(false);
  expect(JSON.stringify(error!.issues)).toMatch(reason);
});
