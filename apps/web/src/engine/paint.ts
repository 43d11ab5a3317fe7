import {
  viewBits,
  viewGray,
  viewRgba,
  type Art,
  type Cover,
  type Gray,
  type Rect,
  type StageId,
} from "@hardline/core";
import { paintCleared } from "./paintCleared";
import { type Pane } from "./protocol";

/** What a stage's result looks like on the screen, as RGBA; clear where there is no art. */
export function paint(
  art: Art,
  { stage, part, width, height, mark, base, look, gapsOf }: Pane,
): Uint8ClampedArray<ArrayBuffer> {
  if (stage === "blackWhite" && art.dots) {
    const { bits, cover } = art.dots;
    return shades(
      viewBits(bits, part, width, height),
      coverView(cover, bits, part, width, height),
      ramp(mark, base),
    );
  }
  if (stage === "tone" && art.toned) {
    const { gray, cover } = art.toned;
    return shades(
      viewGray(gray, part, width, height),
      coverView(cover, gray, part, width, height),
      ramp(0, 0xffffff),
    );
  }
  const { data } = viewRgba(art.colour, ofPicture(part, art, stage), width, height);
  if (stage === "clear") paintCleared(data, art, part, width, height, look ?? "art", gapsOf);
  return new Uint8ClampedArray(data.buffer as ArrayBuffer);
}

/** The artwork has pixels of its own size; everything later has dots. */
function ofPicture(part: Rect, { colour, finish }: Art, stage: StageId): Rect {
  if (stage !== "artwork" || !finish) return part;
  const [sx, sy] = [colour.width / finish.widthPx, colour.height / finish.heightPx];
  return { x: part.x * sx, y: part.y * sy, width: part.width * sx, height: part.height * sy };
}

function coverView(
  cover: Cover,
  { width, height }: { width: number; height: number },
  part: Rect,
  w: number,
  h: number,
): Gray | null {
  return cover && viewGray({ width, height, data: cover }, part, w, h);
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

function shades(view: Gray, cover: Gray | null, colours: Uint32Array): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint32Array(view.data.length);
  for (let i = 0; i < out.length; i++) out[i] = colours[view.data[i]];
  if (cover) for (let i = 0; i < out.length; i++) out[i] = (out[i] & 0xffffff) | (cover.data[i] << 24);
  return new Uint8ClampedArray(out.buffer);
}
