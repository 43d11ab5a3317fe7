import { workSlice, type Work } from "../maths/work";
import { type Frame } from "../path/frame";
import { halveGray, halveRgba, readyGray, readyRgba } from "../raster/halve";
import { type Cover } from "../raster/types";
import { type Finish, type Placement } from "./finish";
import { type Picture, type Result, type Tone } from "./result";

/** What a first look is made from: results at a fraction of their size, or some of their rows. */
export type Less =
  | { readonly kind: "halves"; readonly times: number }
  /** Rows of the finished piece, from the first to before the last. */
  | { readonly kind: "rows"; readonly from: number; readonly to: number };

/** Size and place of what is left of a piece. */
export function lessPlace({ finish, frame }: Placement, less: Less): Placement {
  if (less.kind === "halves") {
    const by = 1 / (1 << less.times);
    const side = (dots: number) => Math.max(1, halved(dots, less.times));
    const [widthPx, heightPx] = [side(finish.widthPx), side(finish.heightPx)];
    return { finish: { ...finish, widthPx, heightPx, dotsPerInch: finish.dotsPerInch * by }, frame };
  }
  return rowsOf(finish, frame, less.from, less.to);
}

function halved(dots: number, times: number): number {
  for (let k = 0; k < times; k++) dots >>= 1;
  return dots;
}

function rowsOf(finish: Finish, frame: Frame, from: number, to: number): Placement {
  const share = (to - from) / finish.heightPx;
  return {
    finish: { ...finish, heightPx: to - from, heightMm: finish.heightMm * share },
    frame: {
      ...frame,
      y: frame.y + (from / finish.heightPx) * frame.height,
      height: share * frame.height,
    },
  };
}

const made = new WeakMap<Result, Map<string, Result>>();

/**
 * A smaller or cut copy of a result; remembered with it. Null for kinds of which there is none.
 */
export function* lessOf(result: Result, less: Less): Work<Result | null> {
  if (result.kind !== "picture" && result.kind !== "tone") return null;
  const name = JSON.stringify(less);
  const known = made.get(result)?.get(name);
  if (known) return known;
  const copy = result.kind === "picture" ? yield* lessPicture(result, less) : yield* lessTone(result, less);
  // Halves are asked for again and again; rows change with the view, and are no copies but windows.
  if (less.kind === "halves") {
    if (!made.has(result)) made.set(result, new Map());
    made.get(result)!.set(name, copy);
  }
  return copy;
}

function* lessPicture(picture: Picture, less: Less): Work<Picture> {
  const place = lessPlace(picture, less);
  let { colour, onGarment } = picture;
  if (onGarment) {
    const { width, height } = colour;
    const white = yield* lessPlane({ width, height, data: onGarment.white }, less);
    onGarment = { ...onGarment, white: white.data };
  }
  if (less.kind === "halves") {
    yield* readyRgba(colour, 1 << less.times);
    for (let k = 0; k < less.times; k++) colour = halveRgba(colour);
  } else {
    const { width } = colour;
    const data = colour.data.subarray(less.from * width * 4, less.to * width * 4);
    colour = { width, height: less.to - less.from, data };
  }
  return { ...picture, ...place, colour, cleared: null, ...(onGarment ? { onGarment } : {}) };
}

function* lessTone(tone: Tone, less: Less): Work<Tone> {
  const place = lessPlace(tone, less);
  const gray = yield* workSlice(lessPlane(tone.gray, less), 0, 0.5);
  const { width, height } = tone.gray;
  const over = tone.cover && (yield* workSlice(lessPlane({ width, height, data: tone.cover }, less), 0.5, 1));
  const cover: Cover = over && over.data;
  return { ...tone, ...place, gray, cover };
}

function* lessPlane(plane: Tone["gray"], less: Less): Work<Tone["gray"]> {
  if (less.kind === "rows") {
    const data = plane.data.subarray(less.from * plane.width, less.to * plane.width);
    return { width: plane.width, height: less.to - less.from, data };
  }
  yield* readyGray(plane, 1 << less.times);
  for (let k = 0; k < less.times; k++) plane = halveGray(plane);
  return plane;
}
