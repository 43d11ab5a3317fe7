import { type CutOutWish, type Rgba } from "@hardline/core";
import sharp from "sharp";
import { clamp, mix, Noise } from "../noise";

/** A photograph-like picture whose true cover is known, and six scribbles as a hand would make them. */
export interface CutOutPicture {
  readonly name: string;
  readonly picture: Rgba;
  /** True cover, 0..255. */
  readonly alpha: Uint8Array;
  /** The subject's own colours, without background. */
  readonly subject: Uint8Array;
  readonly wish: CutOutWish;
  /** Why colour and edges alone cannot tell it. */
  readonly hard?: string;
}

type Colour = readonly [number, number, number];
type Shade = (u: number, v: number, noise: Noise) => Colour;

interface Recipe {
  readonly name: string;
  /** Shapes in white, on a canvas of 900 x 700. */
  readonly shapes: string;
  /** Softness of the edge: standard deviation in pixels. */
  readonly blur?: number;
  readonly subject: Shade;
  readonly ground: Shade;
  readonly grain?: number;
  /** How wide the scribbles are. */
  readonly penMm?: number;
  readonly hard?: string;
  /** Three scribbles on the subject and three on the background, in pixels. */
  readonly keep: readonly (readonly [number, number])[][];
  readonly away: readonly (readonly [number, number])[][];
}

const [W, H] = [900, 700];
export const SCRIBBLE_DOTS_PER_INCH = 254;

const even =
  (...c: Colour): Shade =>
  () =>
    c;
const blend = (a: Colour, b: Colour, t: number): Colour => [
  mix(a[0], b[0], t),
  mix(a[1], b[1], t),
  mix(a[2], b[2], t),
];
const down =
  (a: Colour, b: Colour): Shade =>
  (_, v) =>
    blend(a, b, v);
const across =
  (a: Colour, b: Colour): Shade =>
  (u) =>
    blend(a, b, u);
/** Cloudy change between two colours, `size` lattice cells across the picture. */
const cloudy =
  (a: Colour, b: Colour, size: number): Shade =>
  (u, v, noise) =>
    blend(a, b, clamp(1.6 * noise.octaves(u * size, v * size, 4) - 0.3));
const lit =
  (shade: Shade): Shade =>
  (u, v, noise) =>
    blend(shade(u, v, noise), [20, 18, 24], clamp(0.9 * Math.hypot(u - 0.42, v - 0.35) - 0.1, 0, 0.6));

/** Hairs that leave a point's surroundings outwards, bending. */
function hairs(
  count: number,
  seed: number,
  from: (t: number) => readonly [number, number, number],
  length: number,
  width: number,
): string {
  const noise = new Noise(seed);
  return Array.from({ length: count }, (_, k) => {
    const [x, y, turn] = from((k + noise.random()) / count);
    const bend = (noise.random() - 0.5) * 1.6;
    const reach = length * (0.5 + noise.random());
    const at = (r: number, t: number) =>
      `${(x + r * Math.cos(t)).toFixed(1)} ${(y + r * Math.sin(t)).toFixed(1)}`;
    const wide = (width * (0.6 + 0.8 * noise.random())).toFixed(2);
    return `<path d="M${at(-8, turn)}Q${at(reach * 0.6, turn)} ${at(reach, turn + bend * 0.5)}" stroke="#fff" stroke-width="${wide}" fill="none" stroke-linecap="round"/>`;
  }).join("");
}

const rim =
  (cx: number, cy: number, rx: number, ry: number, start = 0, end = 2 * Math.PI) =>
  (t: number): readonly [number, number, number] => {
    const a = start + (end - start) * t;
    return [cx + rx * Math.cos(a), cy + ry * Math.sin(a), a];
  };

const RECIPES: readonly Recipe[] = [
  {
    name: "soft ball on pale ground",
    shapes: `<circle cx="450" cy="350" r="210" fill="#fff"/>`,
    blur: 5,
    subject: lit(even(196, 62, 44)),
    ground: down([232, 230, 224], [206, 204, 200]),
    keep: [
      [
        [380, 260],
        [520, 300],
      ],
      [
        [360, 380],
        [540, 420],
      ],
      [
        [430, 480],
        [480, 350],
      ],
    ],
    away: [
      [
        [60, 60],
        [840, 70],
      ],
      [
        [60, 640],
        [840, 650],
      ],
      [
        [80, 120],
        [90, 580],
      ],
    ],
  },
  {
    name: "dark hair on a pale wall",
    shapes: `<ellipse cx="450" cy="380" rx="170" ry="210" fill="#fff"/>${hairs(150, 3, rim(450, 380, 168, 208), 70, 1.6)}`,
    blur: 0.6,
    subject: cloudy([42, 30, 26], [74, 54, 42], 9),
    ground: across([224, 222, 214], [190, 196, 200]),
    keep: [
      [
        [400, 250],
        [500, 260],
      ],
      [
        [370, 380],
        [540, 400],
      ],
      [
        [420, 500],
        [480, 480],
      ],
    ],
    away: [
      [
        [50, 50],
        [850, 60],
      ],
      [
        [60, 100],
        [70, 650],
      ],
      [
        [840, 120],
        [830, 640],
      ],
    ],
  },
  {
    name: "red fur before leaves",
    shapes: `<path d="M300 560C240 380 330 200 450 200C570 200 660 380 600 560C520 620 380 620 300 560z" fill="#fff"/>${hairs(170, 5, rim(450, 420, 165, 190), 45, 2)}`,
    blur: 0.8,
    subject: cloudy([186, 92, 40], [224, 140, 82], 22),
    ground: cloudy([44, 84, 42], [98, 132, 70], 7),
    keep: [
      [
        [420, 270],
        [480, 290],
      ],
      [
        [360, 420],
        [540, 430],
      ],
      [
        [380, 530],
        [520, 540],
      ],
    ],
    away: [
      [
        [60, 50],
        [840, 80],
      ],
      [
        [80, 150],
        [90, 640],
      ],
      [
        [820, 160],
        [800, 640],
      ],
    ],
  },
  {
    name: "mug with a handle, on boards",
    shapes: `<path fill-rule="evenodd" fill="#fff" d="M260 200h300v60q150-20 150 110t-150 130v20q0 60-60 60h-180q-60 0-60-60zM560 320v120q86-10 86-74t-86-46z"/>`,
    blur: 1.2,
    subject: across([60, 98, 142], [96, 140, 182]),
    ground: (u, v, noise) =>
      blend(
        [150, 112, 74],
        [184, 144, 100],
        0.5 + 0.5 * Math.sin(46 * v + 3 * noise.octaves(u * 3, v * 3, 3)),
      ),
    keep: [
      [
        [300, 240],
        [520, 240],
      ],
      [
        [310, 400],
        [500, 420],
      ],
      [
        [670, 330],
        [690, 370],
      ],
    ],
    away: [
      [
        [50, 60],
        [850, 60],
      ],
      [
        [60, 650],
        [850, 650],
      ],
      [
        [590, 350],
        [600, 410],
      ],
    ],
  },
  {
    name: "wheel with many holes",
    shapes: `<g fill="none" stroke="#fff"><circle cx="450" cy="350" r="230" stroke-width="44"/><circle cx="450" cy="350" r="60" stroke-width="50"/>${Array.from({ length: 10 }, (_, k) => `<path d="M450 350L${(450 + 280 * Math.cos(k * 0.6283)).toFixed(1)} ${(350 + 280 * Math.sin(k * 0.6283)).toFixed(1)}" stroke-width="20"/>`).join("")}</g>`,
    blur: 1,
    subject: cloudy([118, 74, 40], [150, 100, 60], 12),
    ground: down([142, 172, 196], [196, 208, 212]),
    keep: [
      [
        [430, 300],
        [470, 400],
      ],
      [
        [222, 330],
        [222, 370],
      ],
      [
        [450, 122],
        [480, 124],
      ],
    ],
    away: [
      [
        [50, 40],
        [850, 50],
      ],
      [
        [60, 660],
        [840, 650],
      ],
      [
        [545, 255],
        [560, 240],
      ],
    ],
  },
  {
    name: "leaf on ground of a like colour",
    shapes: `<path d="M180 380C300 180 560 150 740 330C600 520 340 560 180 380z" fill="#fff"/><path d="M180 380L90 440" stroke="#fff" stroke-width="10"/>`,
    blur: 1.5,
    subject: cloudy([74, 120, 58], [104, 148, 72], 10),
    ground: cloudy([158, 170, 108], [182, 188, 130], 6),
    keep: [
      [
        [300, 330],
        [620, 300],
      ],
      [
        [320, 420],
        [600, 400],
      ],
      [
        [220, 378],
        [300, 370],
      ],
    ],
    away: [
      [
        [50, 60],
        [850, 80],
      ],
      [
        [60, 640],
        [850, 620],
      ],
      [
        [60, 200],
        [120, 300],
      ],
    ],
  },
  {
    name: "grey stone on grey slate",
    shapes: `<path d="M250 470C220 320 340 200 480 210C640 220 700 380 640 480C560 560 330 560 250 470z" fill="#fff"/>`,
    blur: 2,
    subject: cloudy([150, 150, 148], [178, 178, 174], 14),
    ground: cloudy([92, 96, 100], [116, 120, 124], 10),
    keep: [
      [
        [340, 300],
        [560, 300],
      ],
      [
        [300, 440],
        [590, 450],
      ],
      [
        [450, 250],
        [470, 500],
      ],
    ],
    away: [
      [
        [50, 60],
        [850, 70],
      ],
      [
        [50, 640],
        [850, 640],
      ],
      [
        [80, 200],
        [120, 520],
      ],
    ],
  },
  {
    name: "white feather on dark cloth",
    shapes: `<path d="M250 600C330 420 480 240 660 120C640 300 500 480 250 600z" fill="#fff"/>${hairs(120, 9, (t) => [260 + 390 * t, 590 - 450 * t - 60 * Math.sin(3 * t), t < 0.5 ? 2.4 : -0.7], 70, 1.4)}<path d="M255 596L190 660" stroke="#fff" stroke-width="7"/>`,
    blur: 1,
    subject: cloudy([226, 222, 214], [250, 248, 244], 16),
    ground: cloudy([28, 30, 40], [48, 50, 62], 5),
    keep: [
      [
        [420, 420],
        [560, 290],
      ],
      [
        [340, 520],
        [420, 440],
      ],
      [
        [590, 230],
        [630, 190],
      ],
    ],
    away: [
      [
        [60, 60],
        [500, 60],
      ],
      [
        [500, 650],
        [850, 600],
      ],
      [
        [80, 120],
        [100, 560],
      ],
    ],
  },
  {
    name: "black and white bird on blue",
    shapes: `<ellipse cx="450" cy="400" rx="150" ry="200" fill="#fff"/><circle cx="470" cy="180" r="92" fill="#fff"/><path d="M540 170L660 200L540 220z" fill="#fff"/>`,
    blur: 1.4,
    subject: (u, v) =>
      u > 0.5 && v > 0.35
        ? [236, 232, 224]
        : v > 0.24 && v < 0.31 && u > 0.58
          ? [220, 120, 50]
          : [34, 36, 42],
    ground: across([92, 140, 178], [134, 170, 196]),
    keep: [
      [
        [380, 300],
        [390, 500],
      ],
      [
        [500, 320],
        [510, 520],
      ],
      [
        [430, 160],
        [590, 196],
      ],
    ],
    away: [
      [
        [50, 60],
        [330, 60],
      ],
      [
        [640, 80],
        [840, 600],
      ],
      [
        [60, 200],
        [80, 640],
      ],
    ],
  },
  {
    name: "thin stems against the sky",
    shapes: `<path d="M380 690L400 520L500 520L520 690z" fill="#fff"/>${hairs(26, 12, (t) => [420 + 60 * t, 540, -2.5 + 1.9 * t], 420, 5)}`,
    blur: 0.8,
    subject: down([70, 96, 48], [112, 82, 54]),
    ground: down([120, 164, 210], [214, 226, 232]),
    keep: [
      [
        [400, 640],
        [500, 640],
      ],
      [
        [420, 580],
        [480, 580],
      ],
      [
        [410, 545],
        [490, 545],
      ],
    ],
    away: [
      [
        [650, 60],
        [860, 60],
      ],
      [
        [30, 400],
        [60, 660],
      ],
      [
        [840, 180],
        [830, 660],
      ],
    ],
  },
  {
    name: "very soft glow",
    shapes: `<ellipse cx="450" cy="350" rx="200" ry="150" fill="#fff"/>`,
    blur: 16,
    subject: even(240, 214, 150),
    ground: down([30, 34, 60], [52, 44, 70]),
    keep: [
      [
        [380, 300],
        [520, 300],
      ],
      [
        [350, 360],
        [550, 360],
      ],
      [
        [400, 420],
        [500, 420],
      ],
    ],
    away: [
      [
        [50, 50],
        [850, 50],
      ],
      [
        [50, 650],
        [850, 650],
      ],
      [
        [60, 150],
        [60, 550],
      ],
    ],
  },
  {
    name: "curls before blurred lights",
    hard: "the background darkens towards the hair, in its colour",
    shapes: `<ellipse cx="450" cy="420" rx="180" ry="200" fill="#fff"/>${hairs(110, 21, rim(450, 420, 176, 196, 2.4, 7), 60, 2.6)}`,
    blur: 0.7,
    subject: cloudy([30, 22, 20], [58, 40, 32], 12),
    ground: (u, v, noise) => blend([120, 96, 84], [222, 190, 150], clamp(2.4 * noise.at(u * 5, v * 4) - 0.6)),
    keep: [
      [
        [400, 300],
        [500, 310],
      ],
      [
        [340, 420],
        [560, 430],
      ],
      [
        [400, 540],
        [500, 550],
      ],
    ],
    away: [
      [
        [40, 40],
        [860, 50],
      ],
      [
        [60, 100],
        [70, 660],
      ],
      [
        [840, 100],
        [830, 660],
      ],
    ],
  },
  {
    name: "bust in a two-toned room",
    shapes: `<path d="M150 700C170 560 300 500 390 490V430C330 380 320 200 450 190C580 200 570 380 510 430V490C600 500 730 560 750 700z" fill="#fff"/>${hairs(60, 31, rim(450, 280, 112, 96, 3, 6.4), 26, 2)}`,
    blur: 1,
    subject: (_, v) => (v > 0.69 ? [52, 66, 104] : v < 0.36 ? [88, 62, 44] : [206, 164, 138]),
    ground: (u) => (u < 0.52 ? [218, 212, 196] : [150, 168, 160]),
    keep: [
      [
        [430, 230],
        [480, 225],
      ],
      [
        [400, 330],
        [500, 340],
      ],
      [
        [280, 600],
        [620, 610],
      ],
    ],
    away: [
      [
        [40, 40],
        [860, 40],
      ],
      [
        [60, 100],
        [70, 560],
      ],
      [
        [840, 100],
        [840, 560],
      ],
    ],
  },
  {
    name: "net on sand",
    shapes: `<g stroke="#fff" stroke-width="13" fill="none">${Array.from({ length: 8 }, (_, k) => `<path d="M${220 + 66 * k} 130C${250 + 60 * k} 300 ${190 + 70 * k} 420 ${220 + 66 * k} 570"/><path d="M190 ${140 + 60 * k}C360 ${170 + 58 * k} 540 ${110 + 62 * k} 720 ${140 + 60 * k}"/>`).join("")}</g>`,
    blur: 0.9,
    penMm: 0.6,
    subject: cloudy([24, 88, 96], [44, 116, 120], 14),
    ground: cloudy([206, 186, 148], [226, 208, 174], 30),
    keep: [
      [
        [220, 132],
        [226, 180],
      ],
      [
        [482, 315],
        [481, 357],
      ],
      [
        [680, 483],
        [681, 526],
      ],
    ],
    away: [
      [
        [40, 50],
        [860, 50],
      ],
      [
        [60, 650],
        [860, 650],
      ],
      [
        [60, 120],
        [70, 600],
      ],
    ],
  },
];

async function draw(recipe: Recipe, seed: number): Promise<CutOutPicture> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}"><rect width="${W}" height="${H}"/>${recipe.shapes}</svg>`;
  const drawn = sharp(Buffer.from(svg)).extractChannel(0);
  const alpha = new Uint8Array(await (recipe.blur ? drawn.blur(recipe.blur) : drawn).raw().toBuffer());
  const noise = new Noise(seed * 17 + 5);
  const grain = recipe.grain ?? 5;
  const data = new Uint8Array(W * H * 4);
  const subject = new Uint8Array(W * H * 4);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const f = recipe.subject(x / W, y / H, noise);
      const b = recipe.ground(x / W, y / H, noise);
      const a = alpha[i] / 255;
      for (let k = 0; k < 3; k++) {
        subject[i * 4 + k] = clamp(Math.round(f[k]), 0, 255);
        data[i * 4 + k] = clamp(Math.round(mix(b[k], f[k], a) + (noise.random() - 0.5) * grain), 0, 255);
      }
      subject[i * 4 + 3] = alpha[i];
      data[i * 4 + 3] = 255;
    }
  const strokes = (lines: Recipe["keep"]) =>
    lines.map((line) => ({
      points: line.map(([x, y]) => [x / W, y / H] as const),
      sizeMm: recipe.penMm ?? 1.2,
      softness: 0,
    }));
  return {
    name: recipe.name,
    hard: recipe.hard,
    picture: { width: W, height: H, data },
    alpha,
    subject,
    wish: { keep: strokes(recipe.keep), away: strokes(recipe.away) },
  };
}

export const CUT_OUT_NAMES: readonly string[] = RECIPES.map((r) => r.name);

/** One of the pictures, always the same. */
export const cutOutPicture = (name: string): Promise<CutOutPicture> => {
  const at = CUT_OUT_NAMES.indexOf(name);
  return draw(RECIPES[at], at + 1);
};
