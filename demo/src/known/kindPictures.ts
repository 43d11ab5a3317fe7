import { type Rgba } from "@hardline/core";
import sharp, { type Sharp } from "sharp";
import { anchorTag, clubBadge, houseNumber } from "../flatArt";
import { type View } from "../harbourLight";
import { boatDrawing, inkDrawing } from "../inkDrawing";
import { paintingOnPaper } from "../painting";
import { clamp, mix, Noise, ramp } from "../noise";
import { stroke, type Point } from "../pen";
import { photograph } from "../photograph";
import { crestAsJpeg } from "../wheelCrest";
import { bellShot, buoyShot } from "../turned";

export type KnownKind = "photograph" | "ink on paper" | "flat art" | "cut out";

/** A picture whose kind is known, because it was made that way. */
export interface KindPicture {
  readonly name: string;
  readonly kind: KnownKind;
  /** Of the paper, where there is paper. */
  readonly light?: "even" | "uneven";
  /** Times it was blown up. */
  readonly enlarged?: number;
  readonly skew?: number;
  readonly make: () => Promise<Buffer>;
}

const raw = (data: Buffer, width: number, height: number, channels: 1 | 3 | 4) =>
  sharp(data, { raw: { width, height, channels } });
const jpeg = (quality: number) => (image: Sharp) => image.jpeg({ quality }).toBuffer();
const png = (image: Sharp) => image.png().toBuffer();

/** A still life without sharp outlines: shaded balls before a cloudy ground. */
async function stillLife(
  seed: number,
  grey = false,
  plainGround?: readonly [number, number, number],
): Promise<Buffer> {
  const [w, h] = [640, 480];
  const noise = new Noise(seed);
  const balls = Array.from({ length: 5 }, () => ({
    x: noise.random() * w,
    y: h * (0.35 + 0.6 * noise.random()),
    r: 50 + 90 * noise.random(),
    colour: [60 + 180 * noise.random(), 60 + 160 * noise.random(), 50 + 150 * noise.random()],
  })).sort((a, b) => a.y - b.y);
  const out = Buffer.alloc(w * h * 3);
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o += 3) {
      const cloud = noise.octaves(x * 0.012, y * 0.012, 5);
      let c = plainGround
        ? plainGround.map((v) => v - 14 * ramp(0, h, y))
        : [90 + 120 * cloud, 100 + 90 * cloud, 120 + 60 * noise.octaves(x * 0.03, y * 0.03, 4)];
      for (const b of balls) {
        const [dx, dy] = [(x - b.x) / b.r, (y - b.y) / b.r];
        const d = dx * dx + dy * dy;
        if (d > 1) continue;
        const z = Math.sqrt(1 - d);
        const lit =
          clamp(0.18 + 0.9 * (-0.45 * dx - 0.55 * dy + 0.7 * z)) *
          (0.8 + 0.4 * noise.octaves(x * 0.09, y * 0.09, 3));
        c = b.colour.map((v) => v * lit + 90 * clamp(z * 3 - 2.6 + 0.3 * -dx) ** 4);
      }
      const g = (noise.random() - 0.5) * 9;
      const luma = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
      for (let k = 0; k < 3; k++) out[o + k] = clamp((grey ? luma : c[k]) + g, 0, 255);
    }
  return jpeg(86)(raw(out, w, h, 3));
}

interface Paper {
  readonly tint?: readonly [number, number, number];
  readonly fall?: number;
  readonly grain?: number;
  readonly ink?: readonly [number, number, number];
  readonly turn?: number;
  readonly quality?: number;
}

/** Ink strokes, given as SVG, on paper under a lamp. */
async function onPaper(svg: string, w: number, h: number, seed: number, paper: Paper = {}): Promise<Buffer> {
  const {
    tint = [246, 243, 234],
    fall = 0.04,
    grain = 4,
    ink = [34, 32, 36],
    turn = 0,
    quality = 88,
  } = paper;
  const drawn = await sharp(Buffer.from(svg))
    .resize(w, h, { fit: "contain", background: { r: 0, g: 0, b: 0, alpha: 0 } })
    .rotate(-turn, { background: { r: 0, g: 0, b: 0, alpha: 0 } })
    .resize(w, h, { fit: "cover" })
    .extractChannel(3)
    .blur(0.8)
    .raw()
    .toBuffer();
  const noise = new Noise(seed);
  const out = Buffer.alloc(w * h * 3);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const fibre = 1 + 0.02 * (noise.octaves(x * 0.15, y * 0.1, 3) - 0.5);
      const lamp = (1 - fall * ramp(0, 1, (0.8 * x) / w + (0.3 * y) / h)) * fibre;
      const wet = drawn[i] / 255;
      const g = (noise.random() - 0.5) * 2 * grain;
      for (let k = 0; k < 3; k++) out[i * 3 + k] = clamp(mix(tint[k], ink[k], wet) * lamp + g, 0, 255);
    }
  return jpeg(quality)(raw(out, w, h, 3));
}

/** A page of handwriting: level lines of loops. */
function handwriting(seed: number): string {
  const noise = new Noise(seed);
  const strokes: string[] = [];
  for (let line = 0; line < 9; line++)
    for (let x = 90; x < 1000; x += 60 + 30 * noise.random()) {
      const y = 120 + 78 * line;
      const points: Point[] = [
        [x, y],
        [x + 12, y - 30 * noise.random() - 8],
        [x + 22, y],
        [x + 34, y - 22],
        [x + 46, y + 12 * (noise.random() - 0.3)],
      ];
      strokes.push(stroke(points, 5, noise));
    }
  const rule = Array.from(
    { length: 9 },
    (_, k) => `<rect x="70" y="${134 + 78 * k}" width="960" height="2"/>`,
  ).join("");
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1100" height="850" viewBox="0 0 1100 850"><path d="${strokes.join("")}"/>${rule}</svg>`;
}

/** A flat picture: bold shapes in a few colours. */
function poster(seed: number, ground: string): string {
  const noise = new Noise(seed);
  const palette = ["#d6402f", "#20508f", "#f0b429", "#1f7a4d", "#15181d", "#7a3b8f"];
  const shapes = Array.from({ length: 9 }, (_, k) => {
    const [x, y, r] = [120 + 560 * noise.random(), 100 + 400 * noise.random(), 40 + 90 * noise.random()];
    const fill = palette[(k + seed) % palette.length];
    return k % 3 === 0
      ? `<circle cx="${x.toFixed(0)}" cy="${y.toFixed(0)}" r="${r.toFixed(0)}" fill="${fill}"/>`
      : k % 3 === 1
        ? `<rect x="${x.toFixed(0)}" y="${y.toFixed(0)}" width="${(r * 1.6).toFixed(0)}" height="${r.toFixed(0)}" fill="${fill}" transform="rotate(${(noise.random() * 60).toFixed(0)} ${x.toFixed(0)} ${y.toFixed(0)})"/>`
        : `<path d="M${x.toFixed(0)} ${(y - r).toFixed(0)}l${r.toFixed(0)} ${(1.7 * r).toFixed(0)}h${(-2 * r).toFixed(0)}z" fill="${fill}"/>`;
  }).join("");
  return `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="600" viewBox="0 0 800 600"><rect width="800" height="600" fill="${ground}"/>${shapes}</svg>`;
}

const onGround = (svg: string, ground: string, width: number, save = png) =>
  save(sharp(Buffer.from(svg)).flatten({ background: ground }).resize(width));

const blownUp = async (
  picture: Promise<Buffer>,
  times: number,
  kernel: "cubic" | "nearest" = "cubic",
): Promise<Buffer> => {
  const bytes = await picture;
  const { width = 1 } = await sharp(bytes).metadata();
  return sharp(bytes)
    .resize(Math.round(width * times), null, { kernel })
    .png()
    .toBuffer();
};

const views: readonly (View | undefined)[] = [
  undefined,
  { pan: -0.34, lens: 0.3, tower: false },
  { pan: 0.2, lens: 0.5, tower: true },
  { pan: 0.05, lens: 1.2, tower: true },
];
const scene = (k: number, width = 320) => photograph(width, Math.round((width * 2) / 3), 90, views[k]);

export const KIND_PICTURES: readonly KindPicture[] = [
  ...views.map((_, k): KindPicture => ({
    name: `harbour, view ${k + 1}`,
    kind: "photograph",
    make: () => scene(k),
  })),
  {
    name: "harbour, black and white",
    kind: "photograph",
    make: async () =>
      sharp(await scene(0))
        .greyscale()
        .jpeg()
        .toBuffer(),
  },
  {
    name: "harbour, poor JPEG",
    kind: "photograph",
    make: async () =>
      sharp(await scene(0, 420))
        .jpeg({ quality: 18 })
        .toBuffer(),
  },
  { name: "harbour, blown up 3 times", kind: "photograph", enlarged: 3, make: () => blownUp(scene(0), 3) },
  { name: "harbour, blown up 4 times", kind: "photograph", enlarged: 4, make: () => blownUp(scene(1), 4) },
  {
    name: "harbour, pixels repeated 4 times",
    kind: "photograph",
    enlarged: 4,
    make: () => blownUp(scene(2), 4, "nearest"),
  },
  ...[1, 2, 3].map((k): KindPicture => ({
    name: `still life ${k}`,
    kind: "photograph",
    make: () => stillLife(k * 11),
  })),
  { name: "still life, grey", kind: "photograph", make: () => stillLife(44, true) },
  {
    name: "still life on pale ground",
    kind: "photograph",
    make: () => stillLife(55, false, [236, 234, 228]),
  },
  { name: "still life on dark ground", kind: "photograph", make: () => stillLife(66, false, [34, 34, 40]) },

  { name: "bell before dark cloth", kind: "photograph", make: async () => (await bellShot()).jpeg },
  { name: "buoy before a pale wall", kind: "photograph", make: async () => (await buoyShot()).jpeg },

  { name: "watercolour on white", kind: "photograph", make: paintingOnPaper },
  {
    name: "boat at a kitchen table",
    kind: "ink on paper",
    light: "uneven",
    enlarged: 2,
    make: inkDrawing,
  },
  {
    name: "boat, scanned",
    kind: "ink on paper",
    light: "even",
    make: () => onPaper(boatDrawing(), 1200, 900, 1),
  },
  {
    name: "boat, one-sided lamp",
    kind: "ink on paper",
    light: "uneven",
    make: () => onPaper(boatDrawing(), 1200, 900, 2, { fall: 0.4 }),
  },
  {
    name: "boat, dim lamp",
    kind: "ink on paper",
    light: "uneven",
    make: () => onPaper(boatDrawing(), 1000, 750, 3, { fall: 0.55, grain: 8 }),
  },
  {
    name: "boat, cream paper",
    kind: "ink on paper",
    light: "even",
    make: () => onPaper(boatDrawing(), 1200, 900, 4, { tint: [238, 224, 190] }),
  },
  {
    name: "boat, blue ink",
    kind: "ink on paper",
    light: "even",
    make: () => onPaper(boatDrawing(), 1200, 900, 5, { ink: [38, 52, 120] }),
  },
  {
    name: "boat, brown ink, small",
    kind: "ink on paper",
    light: "even",
    make: () => onPaper(boatDrawing(), 640, 480, 6, { ink: [84, 52, 34] }),
  },
  {
    name: "boat, blown up twice",
    kind: "ink on paper",
    light: "even",
    enlarged: 2,
    make: () => blownUp(onPaper(boatDrawing(), 700, 525, 7, { quality: 95, grain: 2 }), 2),
  },
  {
    name: "handwriting",
    kind: "ink on paper",
    light: "even",
    skew: 0,
    make: () => onPaper(handwriting(8), 1100, 850, 8),
  },
  {
    name: "handwriting, turned 3 degrees",
    kind: "ink on paper",
    light: "even",
    skew: 3,
    make: () => onPaper(handwriting(9), 1100, 850, 9, { turn: 3 }),
  },
  {
    name: "handwriting, turned -2 degrees",
    kind: "ink on paper",
    light: "even",
    skew: -2,
    make: () => onPaper(handwriting(10), 1100, 850, 10, { turn: -2 }),
  },
  {
    name: "handwriting, shaded",
    kind: "ink on paper",
    light: "uneven",
    make: () => onPaper(handwriting(12), 1100, 850, 12, { fall: 0.35 }),
  },
  {
    name: "boat, pure black on white",
    kind: "ink on paper",
    light: "even",
    make: () => onGround(boatDrawing(), "#ffffff", 1200),
  },

  { name: "crest on white, JPEG", kind: "flat art", make: crestAsJpeg },
  {
    name: "badge on white, JPEG",
    kind: "flat art",
    make: () => onGround(clubBadge(), "#ffffff", 900, jpeg(62)),
  },
  { name: "badge on white, PNG", kind: "flat art", make: () => onGround(clubBadge(), "#ffffff", 900) },
  { name: "badge on yellow", kind: "flat art", make: () => onGround(clubBadge(), "#f2c94c", 500, jpeg(80)) },
  { name: "house number on white", kind: "flat art", make: () => onGround(houseNumber(), "#ffffff", 900) },
  {
    name: "anchor on white, JPEG",
    kind: "flat art",
    make: () => onGround(anchorTag(), "#ffffff", 600, jpeg(75)),
  },
  ...["#ffffff", "#f4efe2", "#1d2a3a", "#e8e8e8", "#ffffff", "#dfeaf2"].map((ground, k): KindPicture => ({
    name: `poster ${k + 1}`,
    kind: "flat art",
    make: () => onGround(poster(k + 3, ground), ground, 800, k % 2 ? jpeg(70) : png),
  })),
  {
    name: "poster, small and poor",
    kind: "flat art",
    make: () => onGround(poster(21, "#ffffff"), "#ffffff", 260, jpeg(45)),
  },
  {
    name: "poster, blown up 4 times",
    kind: "flat art",
    enlarged: 4,
    make: () => blownUp(onGround(poster(22, "#ffffff"), "#ffffff", 260), 4),
  },

  {
    name: "badge, clear ground",
    kind: "cut out",
    make: () => png(sharp(Buffer.from(clubBadge())).resize(800)),
  },
  {
    name: "anchor, clear ground",
    kind: "cut out",
    make: () => png(sharp(Buffer.from(anchorTag())).resize(500)),
  },
  {
    name: "house number, clear ground",
    kind: "cut out",
    make: () => png(sharp(Buffer.from(houseNumber())).resize(700)),
  },
  {
    name: "boat, clear ground",
    kind: "cut out",
    make: () => png(sharp(Buffer.from(boatDrawing())).resize(900)),
  },
  {
    name: "still life, round",
    kind: "cut out",
    make: async () => {
      const mask = Buffer.from(`<svg width="640" height="480"><circle cx="320" cy="240" r="220"/></svg>`);
      return sharp(await stillLife(77))
        .ensureAlpha()
        .composite([{ input: mask, blend: "dest-in" }])
        .png()
        .toBuffer();
    },
  },
];

/** The picture's pixels. */
export async function pixelsOf(bytes: Buffer): Promise<Rgba> {
  const { data, info } = await sharp(bytes)
    .toColourspace("srgb")
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}
