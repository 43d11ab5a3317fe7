import { type Gray, type Rgba } from "@hardline/core/raster/types";

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

/** A flat logo of 16 megapixels on a white box: rings and wedges, edges softened, with the noise of a JPEG. */
export function flatLogoLike(side = 4096): Rgba {
  const data = new Uint8Array(side * side * 4);
  let state = 777;
  for (let y = 0, o = 0; y < side; y++) {
    for (let x = 0; x < side; x++, o += 4) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      const [dx, dy] = [x - side / 2, y - side / 2];
      const radius = Math.sqrt(dx * dx + dy * dy);
      const ring = Math.min(1, Math.max(0, 400 - Math.abs(radius - 1200)));
      const wedge = radius < 1200 && ((x >> 7) ^ (y >> 7)) & 1 ? 1 : 0;
      const ink = Math.max(ring, wedge);
      const noise = (state >>> 29) - 4;
      data[o] = Math.max(0, Math.min(255, 252 - 220 * ink + noise));
      data[o + 1] = Math.max(0, Math.min(255, 252 - 190 * ink + noise));
      data[o + 2] = Math.max(0, Math.min(255, 252 - 150 * ink + noise));
      data[o + 3] = 255;
    }
  }
  return { width: side, height: side, data };
}
