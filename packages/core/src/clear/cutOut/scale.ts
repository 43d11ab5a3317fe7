interface Size {
  readonly width: number;
  readonly height: number;
}

/** A picture's scale by how often it was halved: of an odd side the last pixel fell away, and nothing else moved. */
export function scaleOf(small: Size, large: Size): number {
  let { width, height } = large;
  let scale = 1;
  while (width > small.width || height > small.height) {
    width = Math.max(1, width >> 1);
    height = Math.max(1, height >> 1);
    scale /= 2;
  }
  return scale;
}
