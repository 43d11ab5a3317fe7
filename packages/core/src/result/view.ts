import { coverOfStrokes } from "../clear/strokes";
import { overWhite } from "../film/overWhite";
import { seenPrint } from "../film/seen";
import { runToEnd as finishWork, type Work } from "../maths/work";
import { mmOfDots } from "../maths/units";
import { coverOfPolygon } from "../path/cover";
import { flattened } from "../path/flatten";
import { WHOLE_FRAME } from "../path/frame";
import { seenMockUp } from "../mockUp/seenMockUp";
import { wayView, type Colourway } from "../recolour/colourway";
import { recoloured } from "../recolour/recolour";
import { readyBits, readyGray, readyRgba } from "../raster/halve";
import { newRgba, type Cover, type Gray, type Rect, type Rgba } from "../raster/types";
import { viewBits, viewGray, viewRgba } from "../view/view";
import { type Paths, type Picture, type Plates, type Result, type Tone } from "./result";

export interface View {
  /** In the result's own dots, fractions allowed. */
  readonly part: Rect;
  /** Of the screen, in its pixels. */
  readonly width: number;
  readonly height: number;
  /** Colour under marks, 0xrrggbb. */
  readonly base: number;
  /** The colourway that it is seen in; as it is when left out. */
  readonly way?: Colourway;
  /** Names of plates and sets of paths that are not to be seen. */
  readonly hidden?: readonly string[];
}

const WHITE = 0xffffff;

/** A picture that is printed on a garment is seen on it, over its white. */
function* onItsGarment(
  { onGarment, colour }: Picture,
  seen: Rgba,
  part: Rect,
  way: Colourway | undefined,
): Work<Rgba> {
  if (!onGarment) return seen;
  const { width, height } = seen;
  const white = { width: colour.width, height: colour.height, data: onGarment.white };
  yield* readyGray(white, part.width / width);
  const on = way ? { ...onGarment, garment: wayView(way).garment } : onGarment;
  return overWhite(seen, viewGray(white, part, width, height), on);
}

/** The last picture that was seen, which stays while a hand changes its colours. */
let lastSeen: { readonly of: Uint8Array; readonly part: string; readonly seen: Rgba } | null = null;

/** A picture's colours, or what they become in a colourway. */
function* colourSeen({ colour }: Picture, { part, width, height, way }: View): Work<Rgba> {
  if (!way || way.recolour.length === 0) return viewRgba(colour, part, width, height);
  const name = JSON.stringify([part, width, height]);
  if (lastSeen?.of !== colour.data || lastSeen.part !== name)
    lastSeen = { of: colour.data, part: name, seen: viewRgba(colour, part, width, height) };
  return yield* recoloured(lastSeen.seen, way.recolour);
}

/** What a result looks like, with clear pixels where there is no art. */
export function* viewOf(result: Result, view: View): Work<Rgba> {
  const { part, width, height, base } = view;
  const scale = part.width / width;
  switch (result.kind) {
    case "picture":
      yield* readyRgba(result.colour, scale);
      return yield* onItsGarment(result, yield* colourSeen(result, view), part, view.way);
    case "tone":
      return yield* toneView(result, view, result.ink ?? 0, result.ink === undefined ? WHITE : base);
    case "plates":
      return result.print
        ? yield* seenPrint(result, view, view.way ? wayView(view.way) : {})
        : yield* platesView(result, view);
    case "paths":
      return yield* pathsView(result, view);
    case "mockUp":
      return yield* seenMockUp(result, part, width, height, view.way ?? null);
    default:
      return newRgba(width, height); // seen by their stage's own drawing alone
  }
}

function* toneView(
  { gray, cover }: Tone,
  { part, width, height }: View,
  dark: number,
  pale: number,
): Work<Rgba> {
  yield* readyGray(gray, part.width / width);
  const seen = viewGray(gray, part, width, height);
  return shades(seen, yield* coverView(cover, gray, part, width, height), ramp(dark, pale));
}

function* platesView({ plates, cover }: Plates, view: View): Work<Rgba> {
  const { part, width, height, base, hidden = [] } = view;
  const seen = plates.filter((p) => !hidden.includes(p.name));
  const grays: Gray[] = [];
  for (const { bits } of seen) {
    yield* readyBits(bits, part.width / width);
    grays.push(viewBits(bits, part, width, height));
  }
  const over = plates.length > 0 ? yield* coverView(cover, plates[0].bits, part, width, height) : null;
  if (seen.length === 1) return shades(grays[0], over, ramp(seen[0].ink, base));
  return printed(
    grays,
    seen.map((p) => p.ink),
    base,
    over,
    width,
    height,
  );
}

/** Inks one over another, each as opaque as it is dense. */
function printed(
  grays: readonly Gray[],
  inks: readonly number[],
  base: number,
  cover: Gray | null,
  width: number,
  height: number,
): Rgba {
  const out = newRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    let [r, g, b] = [base >> 16, (base >> 8) & 255, base & 255];
    for (const [k, ink] of inks.entries()) {
      const share = 1 - grays[k].data[i] / 255;
      r += ((ink >> 16) - r) * share;
      g += (((ink >> 8) & 255) - g) * share;
      b += ((ink & 255) - b) * share;
    }
    out.data.set([Math.round(r), Math.round(g), Math.round(b), cover ? cover.data[i] : 255], i * 4);
  }
  return out;
}

/** A line of paths is this wide on a small picture, in its pixels. */
const LINE = 1.4;

/** Filled sets as areas, the others as lines: for small pictures. The light table draws paths itself, sharp at any zoom. */
function* pathsView({ sets, finish }: Paths, { part, width, height, hidden = [] }: View): Work<Rgba> {
  const out = newRgba(width, height);
  const perMm = (width / part.width) * (finish.widthPx / finish.widthMm);
  const [left, top] = [mmOfDots(part.x, finish), mmOfDots(part.y, finish)];
  const on = { source: { width, height }, frame: WHOLE_FRAME, dotsPerMm: 1 };
  for (const set of sets.filter((s) => !hidden.includes(s.name))) {
    const lines = flattened(set, 0.2 / perMm).map(({ points }) =>
      Array.from({ length: points.length / 2 }, (_, k): [number, number] => [
        (points[2 * k] - left) * perMm,
        (points[2 * k + 1] - top) * perMm,
      ]),
    );
    const cover = new Uint8Array(width * height);
    if (set.use === "fill")
      for (const points of lines) {
        const inside = yield* coverOfPolygon(points, width, height);
        for (let i = 0; i < cover.length; i++) cover[i] = Math.abs(cover[i] - inside[i]); // even-odd
      }
    else {
      const strokes = lines.map((points) => ({
        points: points.map(([x, y]): [number, number] => [x / width, y / height]),
        sizeMm: LINE,
        softness: 0,
      }));
      cover.set(yield* coverOfStrokes(on, strokes));
    }
    for (let i = 0; i < cover.length; i++)
      if (cover[i] > out.data[i * 4 + 3])
        out.data.set([set.colour >> 16, (set.colour >> 8) & 255, set.colour & 255, cover[i]], i * 4);
  }
  return out;
}

function* coverView(
  cover: Cover,
  { width, height }: { width: number; height: number },
  part: Rect,
  w: number,
  h: number,
): Work<Gray | null> {
  if (!cover) return null;
  const plane = { width, height, data: cover };
  yield* readyGray(plane, part.width / w);
  return viewGray(plane, part, w, h);
}

/** The 256 colours from `dark` at 0 to `pale` at 255. */
function ramp(dark: number, pale: number): Uint32Array {
  const channel = (colour: number, shift: number) => (colour >> shift) & 255;
  return Uint32Array.from({ length: 256 }, (_, g) => {
    const at = (shift: number) =>
      Math.round(channel(dark, shift) + ((channel(pale, shift) - channel(dark, shift)) * g) / 255);
    return (0xff000000 | (at(0) << 16) | (at(8) << 8) | at(16)) >>> 0;
  });
}

function shades(view: Gray, cover: Gray | null, colours: Uint32Array): Rgba {
  const { width, height } = view;
  const out = new Uint32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = colours[view.data[i]];
  if (cover) for (let i = 0; i < out.length; i++) out[i] = (out[i] & 0xffffff) | (cover.data[i] << 24);
  return { width, height, data: new Uint8Array(out.buffer) };
}

/** The whole of a result, as large as fits a box. */
export function smallView(result: Result, box: { width: number; height: number }, base: number): Rgba {
  const { widthPx, heightPx } = result.finish;
  const scale = Math.min(box.width / widthPx, box.height / heightPx);
  const [width, height] = [
    Math.max(1, Math.round(widthPx * scale)),
    Math.max(1, Math.round(heightPx * scale)),
  ];
  const part = { x: 0, y: 0, width: widthPx, height: heightPx };
  return finishWork(viewOf(result, { part, width, height, base }));
}

/** One plate by itself, black on white, as large as fits a box. */
export function smallPlate(result: Plates, name: string, box: { width: number; height: number }): Rgba {
  const plate = result.plates.find((p) => p.name === name)!;
  const alone: Plates = {
    ...{ kind: "plates", finish: result.finish, frame: result.frame, cover: null },
    plates: [{ ...plate, ink: BLACK }],
  };
  return smallView(alone, box, WHITE);
}

const BLACK = 0x15181d;
