import { seeded } from "@hardline/core/maths/seeded";
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

/** A drawing of 4.3 megapixels in hatching: short strokes of 2 to 5 pixels, whose outlines have a hundred thousand corners. */
export function lineArtLike(side = 2080): Rgba {
  const data = new Uint8Array(side * side * 4).fill(255);
  const ink = (x: number, y: number, grey: number): void => {
    const o = 4 * (y * side + x);
    if (grey < data[o]) data.fill(grey, o, o + 3);
  };
  const random = seeded(4711);
  for (let stroke = 0; stroke < 5000; stroke++) {
    const [x, y, turn] = [random() * side, random() * side, random() * 0.8 + (stroke % 3)];
    const [half, length] = [1 + 1.5 * random(), 20 + 40 * random()];
    for (let along = 0; along < length; along += 0.5)
      for (let across = -half - 1; across <= half + 1; across += 0.5) {
        const bend = 3 * Math.sin(along / 7);
        const px = Math.round(x + along * Math.cos(turn) - (across + bend) * Math.sin(turn));
        const py = Math.round(y + along * Math.sin(turn) + (across + bend) * Math.cos(turn));
        if (px < 0 || py < 0 || px >= side || py >= side) continue;
        const cover = Math.max(0, Math.min(1, half + 0.5 - Math.abs(across)));
        ink(px, py, Math.round(255 - cover * (200 + (stroke % 4) * 18)));
      }
  }
  return { width: side, height: side, data };
}

/** Fern leaves on nothing, 4.3 megapixels: some hundred parts with toothed edges, soft by a pixel. */
export function leavesLike(side = 2080): Rgba {
  const data = new Uint8Array(side * side * 4);
  const cell = side / 12;
  for (let y = 0, o = 0; y < side; y++)
    for (let x = 0; x < side; x++, o += 4) {
      const [dx, dy] = [(x % cell) - cell / 2, (y % cell) - cell / 2];
      const turn = Math.atan2(dy, dx) + Math.floor(x / cell) + Math.floor(y / cell);
      const edge = cell * (0.33 + 0.1 * Math.sin(5 * turn) + 0.03 * Math.sin(61 * turn));
      const cover = Math.max(0, Math.min(1, edge - Math.hypot(dx, dy) + 0.5));
      data.set([40 + (x >> 4), 120, 60, Math.round(255 * cover)], o);
    }
  return { width: side, height: side, data };
}
