import { type KnotPath } from "../../path/pathSet";
import { lightOfRound, shineOfRound } from "../round";
import { mirroredAt, openPath } from "../shapes";
import { roundSurface } from "../surface";
import { defineThing, ETCHED } from "../thing";

const [RADIUS, TOP, HEIGHT] = [36.5, 88, 172];
const MIDDLE = 75;

/** A steel bottle with a coat, which a laser takes off down to the bright metal. */
export const bottle = defineThing({
  ...{ id: "bottle", title: "Bottle", group: "Cups and bottles" },
  ...{ stuff: "steel", colour: "#2f4a5c", ink: "etched", etched: ETCHED.steel, sizes: [] },
  draw: () => ({
    ...{ widthMm: 150, heightMm: 290 },
    parts: [{ path: BODY }, { path: CAP, colour: "#2a2c2f" }, { path: NECK, colour: "#c3c7ca" }],
    lines: [{ path: openPath([MIDDLE - RADIUS, 254], [MIDDLE + RADIUS, 254]), widthMm: 0.8, shade: 0.7 }],
    folds: [],
    light: (x) => lightOfRound((x - MIDDLE) / RADIUS),
    shine: (x) => shineOfRound((x - MIDDLE) / RADIUS),
    areas: [
      {
        name: "Wall",
        limits: { x: -60, y: 8, width: 120, height: HEIGHT - 24 },
        edges: { x: -Math.PI * RADIUS, y: 0, width: 2 * Math.PI * RADIUS, height: HEIGHT },
        below: "the shoulder",
        seams: [],
        surfaces: [roundSurface({ origin: [MIDDLE, TOP], radiusMm: RADIUS, facing: 0 })],
      },
    ],
    places: [
      { name: "middle", area: "Wall", at: [0, 40] },
      { name: "low", area: "Wall", at: [0, 90] },
    ],
  }),
});

const BODY: KnotPath = mirroredAt(MIDDLE, [
  { at: [0, 52] },
  { at: [19, 52], out: [0, 16] },
  { at: [RADIUS, TOP], in: [0, -18] },
  { at: [RADIUS, 262], out: [0, 4] },
  { at: [RADIUS - 4, 266] },
  { at: [0, 266] },
]);
const CAP: KnotPath = mirroredAt(MIDDLE, [
  { at: [0, 18] },
  { at: [19, 18], out: [3, 0] },
  { at: [21, 21] },
  { at: [21, 47] },
  { at: [0, 47] },
]);
const NECK: KnotPath = mirroredAt(MIDDLE, [
  { at: [0, 47] },
  { at: [18, 47] },
  { at: [18, 53] },
  { at: [0, 53] },
]);
