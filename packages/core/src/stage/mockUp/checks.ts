import { figure, placeInMm, type Check, type Place } from "../../inspect/check";
import { type MockUp } from "../../mockUp/result";
import { distancesOf, placeWords, type PlacedPrint } from "../../mockUp/place";
import { type Scene } from "../../mockUp/scene";
import { sceneOf } from "../../mockUp/stageOf";
import { type Point } from "../../mockUp/surface";
import { type Rect } from "../../raster/types";
import { cosPi, sinPi } from "../../maths/steady";
import { atOnce, type StageCheck } from "../checks";

interface About {
  readonly scene: Scene | null;
}

export const aboutMockUp = (result: MockUp): About => ({ scene: sceneOf(result, null) });

/** What is nearer to an edge than this, in mm, or than this share of a small thing's shorter side, is too near. */
const [NEAR_MM, NEAR_SHARE] = [10, 0.05];
/** What is off by less than this, in mm, is not off. */
const NONE_MM = 0.05;

/** Everything that is looked at in a mock-up. */
export const MOCK_UP_CHECKS: readonly StageCheck<About>[] = [
  atOnce(({ scene }) => {
    if (!scene) return {};
    const [first] = scene.prints;
    const { below, right } = distancesOf(first);
    const words = scene.prints.map(placeWords);
    const check: Check = {
      ...{ id: "sits", level: "fine", value: scene.prints.length, unit: "prints" },
      text: scene.prints.length === 1 ? "Where it sits" : `Where the ${scene.prints.length} prints sit`,
      detail: `${words.join(". ")}.`,
      places: scene.prints.map((p) => placeOn(scene, p, p.box)),
    };
    const round = (v: number): number => Math.round(100 * v) / 100;
    return {
      checks: [check],
      readings: {
        ...{ printWidth: round(first.widthMm), printHeight: round(first.heightMm) },
        ...{ below: round(below), fromMiddle: round(right), sits: words.join(". ") },
      },
    };
  }),
  atOnce(({ scene }) => ({
    checks: scene
      ? [
          told(scene, "printArea", "stop", overLimits, {
            fine: "Within the print area",
            text: "Larger than the print area",
            detail: (mm) => `It reaches ${figure(mm, 1)} mm beyond what can be printed there.`,
            all: "All of it lies where it can be printed.",
          }),
          told(scene, "overSeam", "look", overSeams, {
            fine: "Over no seam",
            text: "Over a seam",
            detail: (mm) =>
              `${figure(mm, 1)} mm of a seam or an edge of a pocket lie under it: ink breaks there.`,
            all: "No seam lies under it.",
          }),
          told(scene, "nearEdge", "look", nearEdges, {
            fine: "Far enough from every edge",
            text: "Too near an edge",
            detail: (mm) => `An edge is nearer by ${figure(mm, 1)} mm than it should be.`,
            all: "Every edge is far enough away.",
          }),
          told(scene, "overlap", "look", overlaps, {
            fine: "Prints keep clear of each other",
            text: "Prints lie over each other",
            detail: (mm) => `They share ${figure(mm, 1)} mm of width or height.`,
            all: "No two prints meet.",
          }),
        ]
      : [],
  })),
  {
    cost: 2,
    applies: ({ scene }) => scene?.stage.kind === "photo" && scene.stage.front !== null,
    *find({ scene }) {
      yield 0;
      return { checks: [hiddenBy(scene!)] };
    },
  },
];

/** How much is wrong with a print, in mm, and where on its area; 0 for nothing. */
type Fault = (print: PlacedPrint, scene: Scene) => { readonly mm: number; readonly where: Rect };

function told(
  scene: Scene,
  id: string,
  level: "look" | "stop",
  fault: Fault,
  words: {
    readonly fine: string;
    readonly text: string;
    readonly detail: (mm: number) => string;
    readonly all: string;
  },
): Check {
  const found = scene.prints
    .map((print) => ({ print, ...fault(print, scene) }))
    .filter((f) => f.mm > NONE_MM);
  const worst = Math.max(0, ...found.map((f) => f.mm));
  const isFine = found.length === 0;
  return {
    ...{ id, level: isFine ? "fine" : level, value: Math.round(100 * worst) / 100, unit: "mm" },
    text: isFine ? words.fine : words.text,
    detail: isFine ? words.all : words.detail(worst),
    places: found.sort((a, b) => b.mm - a.mm).map(({ print, where }) => placeOn(scene, print, where)),
  };
}

const overLimits: Fault = ({ box, area: { limits } }) => {
  const over = [
    limits.x - box.x,
    limits.y - box.y,
    box.x + box.width - limits.x - limits.width,
    box.y + box.height - limits.y - limits.height,
  ];
  return { mm: Math.max(0, ...over), where: box };
};

const nearEdges: Fault = ({ box, area: { edges } }) => {
  const need = Math.min(NEAR_MM, NEAR_SHARE * Math.min(edges.width, edges.height));
  const room = [
    box.x - edges.x,
    box.y - edges.y,
    edges.x + edges.width - box.x - box.width,
    edges.y + edges.height - box.y - box.height,
  ];
  return { mm: Math.max(0, need - Math.min(...room)), where: box };
};

/** How much of the seams lies within the print as it is turned. */
const overSeams: Fault = ({ box, area: { seams }, middle, turn, widthMm, heightMm }) => {
  const [c, s] = [cosPi(turn / 180), sinPi(turn / 180)];
  const own = ([x, y]: Point): Point => {
    const [dx, dy] = [x - middle[0], y - middle[1]];
    return [c * dx + s * dy, c * dy - s * dx];
  };
  let mm = 0;
  for (const seam of seams)
    for (let k = 0; k + 1 < seam.length; k++)
      mm += within(own(seam[k]), own(seam[k + 1]), widthMm / 2, heightMm / 2);
  return { mm, where: box };
};

/** How much of a line lies in a box about the middle. @see Liang & Barsky, "A new concept and method for line clipping", 1984 */
function within(a: Point, b: Point, halfW: number, halfH: number): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  let [from, to] = [0, 1];
  for (const [p, q] of [
    [-dx, a[0] + halfW],
    [dx, halfW - a[0]],
    [-dy, a[1] + halfH],
    [dy, halfH - a[1]],
  ]) {
    if (p === 0) {
      if (q < 0) return 0;
    } else if (p < 0) from = Math.max(from, q / p);
    else to = Math.min(to, q / p);
  }
  return to > from ? (to - from) * Math.sqrt(dx * dx + dy * dy) : 0;
}

const overlaps: Fault = (print, { prints }) => {
  let [mm, where] = [0, print.box];
  for (const other of prints) {
    if (other === print || other.area.name !== print.area.name) continue;
    const [a, b] = [print.box, other.box];
    const x = Math.max(a.x, b.x);
    const y = Math.max(a.y, b.y);
    const width = Math.min(a.x + a.width, b.x + b.width) - x;
    const height = Math.min(a.y + a.height, b.y + b.height) - y;
    if (Math.min(width, height) > mm) [mm, where] = [Math.min(width, height), { x, y, width, height }];
  }
  return { mm, where };
};

/** A box of an area where it is seen, in mm of the picture. */
export function placeOn({ stage }: Scene, { area }: PlacedPrint, { x, y, width, height }: Rect): Place {
  const seen: Point[] = [];
  for (const surface of area.surfaces)
    for (let i = 0; i <= 4; i++)
      for (const [u, v] of [
        [x + (i * width) / 4, y],
        [x + (i * width) / 4, y + height],
        [x, y + (i * height) / 4],
        [x + width, y + (i * height) / 4],
      ]) {
        const at = surface.seen(u, v);
        if (at) seen.push(at);
      }
  const [xs, ys] = [seen.map((p) => p[0] / stage.perMm), seen.map((p) => p[1] / stage.perMm)];
  if (seen.length === 0) return placeInMm({ x: 0, y: 0, width: 0, height: 0 });
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return placeInMm({ x: left, y: top, width: Math.max(...xs) - left, height: Math.max(...ys) - top });
}

/** Places of a print that are looked at, along each side. */
const LOOKS = 32;

/** How much of the prints lies behind something. */
function hiddenBy(scene: Scene): Check {
  const { stage } = scene;
  if (stage.kind !== "photo") throw new Error("only a photograph has something in front");
  let [hidden, all] = [0, 0];
  for (const { middle, turn, widthMm, heightMm } of scene.prints) {
    const [c, s] = [cosPi(turn / 180), sinPi(turn / 180)];
    for (let i = 0; i < LOOKS; i++)
      for (let j = 0; j < LOOKS; j++) {
        const [x, y] = [((i + 0.5) / LOOKS - 0.5) * widthMm, ((j + 0.5) / LOOKS - 0.5) * heightMm];
        const at = stage.surface.seen(middle[0] + c * x - s * y, middle[1] + s * x + c * y);
        if (!at) continue;
        const [u, v] = [Math.floor(at[0]), Math.floor(at[1])];
        if (u < 0 || v < 0 || u >= stage.width || v >= stage.height) continue;
        all++;
        hidden += stage.front![v * stage.width + u] / 255;
      }
  }
  const percent = all > 0 ? Math.round((1000 * hidden) / all) / 10 : 0;
  const isFine = percent < 0.5;
  return {
    ...{ id: "inFront", level: isFine ? "fine" : "look", value: percent, unit: "%" },
    text: isFine ? "Nothing is in front of it" : "Something is in front of it",
    detail: `${figure(percent, 1)} % of the print is hidden by what stands before it.`,
    places: isFine ? [] : scene.prints.map((p) => placeOn(scene, p, p.box)),
  };
}
