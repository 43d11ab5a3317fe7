import { type Gray, type Rgba } from "@hardline/core";

/** A 16-megapixel picture with soft shading and fine noise, as a photograph has; made anew each time, the same. */
export function photographLike(side = 4096): Gray {
  const data = new Uint8Array(side * side);
  let state = 12345;
  for (let y = 0, i = 0; y < side; y++) {
    for (let x = 0; x < side; x++, i++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      const shade = 128 + 90 * Math.sin(x / 611) * Math.cos(y / 397) + ((x + y) & 511) / 16;
      data[i] = Math.max(0, Math.min(255, shade + ((state >>> 24) - 128) / 8));
    }
  }
  return { width: side, height: side, data };
}

export function inColour({ width, height, data }: Gray): Rgba {
  const out = new Uint8Array(width * height * 4);
  for (let i = 0, o = 0; i < data.length; i++, o += 4) {
    out[o] = data[i];
    out[o + 1] = data[i] ^ 15;
    out[o + 2] = 255 - data[i];
    out[o + 3] = 255;
  }
  return { width, height, data: out };
}
