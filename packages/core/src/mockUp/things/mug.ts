import { rectangleKnots, roundKnots } from "../../path/outline";
import { type KnotPath } from "../../path/pathSet";
import { lightOfRound, shineOfRound } from "../round";
import { roundSurface } from "../surface";
import { defineThing, ETCHED } from "../thing";

const [RADIUS, HEIGHT, SAG] = [41, 96, 7];
/** Round the wall, less room for the handle. */
const WRAP = 200;
/** Middle of each of the three views, and the top of the wall. */
const [LEFT, MIDDLE, RIGHT, TOP] = [78, 205, 332, 40];
const VIEWS = [LEFT, MIDDLE, RIGHT];
/** Mm of the wall by which the two at the sides are turned, so that the wrap's ends are seen too. */
const TURN = 64;
const across = (x: number): number => (x - (x < 142 ? LEFT : x < 268 ? MIDDLE : RIGHT)) / RADIUS;

/** A mug seen from three sides, so that all of its wrap is seen. */
export const mug = defineThing({
  ...{ id: "mug", title: "Mug", group: "Cups and bottles" },
  ...{ stuff: "glazed", colour: "#fbfbf9", ink: "onTop", etched: ETCHED.glazed, sizes: [] },
  draw: () => ({
    ...{ widthMm: 410, heightMm: 180 },
    parts: [
      { path: ear(LEFT, -1), shade: 0.86, behind: true },
      { path: ear(RIGHT, 1), shade: 0.86, behind: true },
      { path: VIEWS.map(wall) },
      ...VIEWS.flatMap((x) => [
        { path: rim(x, RADIUS, SAG), shade: 0.97 },
        { path: rim(x, RADIUS - 3, SAG - 1), shade: 0.6 },
      ]),
    ],
    lines: [],
    folds: [],
    light: (x) => lightOfRound(across(x)),
    shine: (x) => shineOfRound(across(x)),
    areas: [
      {
        name: "Wrap",
        limits: { x: -WRAP / 2, y: 5, width: WRAP, height: HEIGHT - 12 },
        edges: { x: -WRAP / 2, y: 0, width: WRAP, height: HEIGHT },
        below: "the rim",
        seams: [],
        surfaces: [
          roundSurface({ origin: [MIDDLE, TOP], radiusMm: RADIUS, facing: 0, sagMm: SAG }),
          roundSurface({ origin: [LEFT, TOP], radiusMm: RADIUS, facing: -TURN, sagMm: SAG }),
          roundSurface({ origin: [RIGHT, TOP], radiusMm: RADIUS, facing: TURN, sagMm: SAG }),
        ],
      },
    ],
    places: [
      { name: "all round", area: "Wrap", at: [0, 10] },
      { name: "left of the handle", area: "Wrap", at: [-TURN, 18] },
      { name: "right of the handle", area: "Wrap", at: [TURN, 18] },
    ],
  }),
});

/** The wall: straight sides, its foot as round as its rim. */
const wall = (x: number): KnotPath => ({
  closed: true,
  knots: [
    { at: [x - RADIUS, TOP] },
    { at: [x + RADIUS, TOP] },
    { at: [x + RADIUS, TOP + HEIGHT], out: [0, SAG * 0.55] },
    { at: [x, TOP + HEIGHT + SAG], in: [RADIUS * 0.55, 0], out: [-RADIUS * 0.55, 0] },
    { at: [x - RADIUS, TOP + HEIGHT], in: [0, SAG * 0.55] },
  ],
});

const rim = (x: number, r: number, sag: number): KnotPath => ({
  closed: true,
  knots: roundKnots(x - r, TOP - sag, 2 * r, 2 * sag),
});

/** The handle, on the left or right: a ring, half of it behind the wall. */
const ear = (x: number, side: number): KnotPath[] => {
  const middle = x + side * (RADIUS + 2);
  const box = (wide: number, high: number) =>
    rectangleKnots(middle - wide / 2, TOP + 48 - high / 2, wide, high, wide / 2, wide / 2);
  return [
    { closed: true, knots: box(52, 66) },
    {
      closed: true,
      knots: [...box(32, 46)]
        .reverse()
        .map((k) => ({ at: k.at, ...(k.out ? { in: k.out } : {}), ...(k.in ? { out: k.in } : {}) })),
    },
  ];
};
