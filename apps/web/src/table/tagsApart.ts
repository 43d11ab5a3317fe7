/** A tag to be placed: where it points to, and how large it is, in pixels. */
export interface Tag {
  readonly at: readonly [number, number];
  readonly width: number;
  readonly height: number;
}

/** Places are tried on rings this far apart, in pixels, so many on each, on so many rings. */
const [RING, AROUND, RINGS] = [9, 12, 12];
/** Room between tags. */
const GAP = 2;

/**
 * The middle of each tag: where it points to, or as near to that as it lies over no earlier one. Where there is no room
 * near it, it stays where it points to.
 */
export function tagsApart(tags: readonly Tag[]): (readonly [number, number])[] {
  const placed: { readonly x: number; readonly y: number; readonly of: Tag }[] = [];
  const isFree = (x: number, y: number, { width, height }: Tag): boolean =>
    placed.every(
      (p) =>
        Math.abs(p.x - x) >= (p.of.width + width) / 2 + GAP ||
        Math.abs(p.y - y) >= (p.of.height + height) / 2 + GAP,
    );
  for (const tag of tags) {
    const [x, y] = tag.at;
    let best = [x, y] as const;
    for (let ring = 0; ring < RINGS; ring++) {
      const found = Array.from({ length: ring === 0 ? 1 : AROUND }, (_, k) => {
        const angle = (2 * Math.PI * k) / AROUND;
        return [x + RING * ring * Math.cos(angle), y + RING * ring * Math.sin(angle)] as const;
      }).find(([u, v]) => isFree(u, v, tag));
      if (!found) continue;
      best = found;
      break;
    }
    placed.push({ x: best[0], y: best[1], of: tag });
  }
  return placed.map(({ x, y }) => [x, y]);
}
