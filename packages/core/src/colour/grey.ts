import { type Work } from "../maths/work";
import { newGray, type Gray, type Rgba } from "../raster/types";
import { PAGE, VectorModule, type Instance } from "../simd/engine";
import { GREY_AT_ONCE, greyKernel } from "../simd/kernels";

/** Pixels between two slices. */
const AT_ONCE = 1 << 21;

/** Whole weights in units of 2^-SHIFT. */
const SHIFT = 23;
const [RED, GREEN, BLUE] = [0.2126, 0.7152, 0.0722].map((w) => Math.round(w * (1 << SHIFT)));
const SLACK = 400;
const HALF = (1 << (SHIFT - 1)) + SLACK;

/**
 * Grey of every pixel: Rec. 709 luma of the sRGB-coded values, rounded to the nearest whole code (half goes up).
 * Alpha is not looked at.
 *
 * Sums are whole numbers, in units of 2^-23 of a code. Three rounded weights are off by at most 382 units together,
 * and two sums that round differently are a ten-thousandth of a code, 838 units, apart: the half with `SLACK` added
 * brings every sum to the right side.
 * @see Recommendation ITU-R BT.709
 */
export function* greyOf(picture: Rgba): Work<Gray> {
  const { width, height, data } = picture;
  const out = newGray(width, height);
  vectors ??= modules.on(1 + (5 * COPIED) / PAGE) ?? "none";
  for (let at = 0; at < out.data.length; at += AT_ONCE) {
    yield at / out.data.length;
    const pixels = data.subarray(4 * at, 4 * (at + AT_ONCE));
    const grey = out.data.subarray(at, at + AT_ONCE);
    const done = vectors === "none" ? 0 : greyByVectors(vectors, pixels, grey);
    greyOneByOne(pixels.subarray(4 * done), grey.subarray(done));
  }
  return out;
}

interface GreyKernels {
  readonly grey: (from: number, end: number, to: number) => void;
}
const modules = new VectorModule<GreyKernels>(() => [
  greyKernel({ red: RED, green: GREEN, blue: BLUE, plus: HALF, shift: SHIFT }),
]);
let vectors: Instance<GreyKernels> | "none" | undefined;

/** Pixels that are copied over to the kernel at once: few enough to stay near the processor. */
const COPIED = 1 << 15;

/** @returns how many pixels were done, a multiple of the kernel's own step */
function greyByVectors(
  { kernels, memory }: Instance<GreyKernels>,
  pixels: Uint8Array,
  grey: Uint8Array,
): number {
  const room = new Uint8Array(memory.buffer);
  const to = 4 * COPIED;
  const count = grey.length - (grey.length % GREY_AT_ONCE);
  for (let at = 0; at < count; at += COPIED) {
    const some = Math.min(COPIED, count - at);
    room.set(pixels.subarray(4 * at, 4 * (at + some)));
    kernels.grey(0, 4 * some, to);
    grey.set(room.subarray(to, to + some), at);
  }
  return count;
}

function greyOneByOne(pixels: Uint8Array, grey: Uint8Array): void {
  for (let i = 0, o = 0; i < grey.length; i++, o += 4)
    grey[i] =
      (Math.imul(pixels[o], RED) + Math.imul(pixels[o + 1], GREEN) + Math.imul(pixels[o + 2], BLUE) + HALF) >>
      SHIFT;
}

/** The alpha plane, or null when every pixel is whole. */
export function* coverOf(picture: Rgba): Work<Uint8Array | null> {
  const { width, height, data } = picture;
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let whole = true;
  for (let at = 0; at < pixels.length && whole; at += AT_ONCE) {
    yield (0.5 * at) / pixels.length;
    whole = isWhole(pixels.subarray(at, at + AT_ONCE));
  }
  if (whole) return null;
  const cover = new Uint8Array(width * height);
  for (let at = 0; at < pixels.length; at += AT_ONCE) {
    yield 0.5 + (0.5 * at) / pixels.length;
    for (let i = at; i < Math.min(cover.length, at + AT_ONCE); i++) cover[i] = pixels[i] >>> 24;
  }
  return cover;
}

function isWhole(pixels: Uint32Array): boolean {
  let all = -1;
  for (let i = 0; i < pixels.length; i++) all &= pixels[i];
  return all >>> 24 === 255;
}
