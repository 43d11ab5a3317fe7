import { type Work } from "../../maths/work";
import { shareOf, type Parted } from "./values";

/**
 * A boundary between two labels, from one place where three or more meet to another, or closed in itself. Both areas have
 * it in common, so that what is made of it fits both exactly.
 */
export interface Arc {
  /** Labels to the left and right of the way it runs. */
  readonly left: number;
  readonly right: number;
  /** Corners of the grid where it begins and ends. */
  readonly from: number;
  readonly to: number;
  /** Ways of its first and last step: right, down, left, up. */
  readonly first: number;
  readonly last: number;
  /** x, y in pixels; of a closed one the first comes once. */
  readonly points: readonly number[];
  readonly closed: boolean;
}

/** Nearer to a pixel's middle than this an edge is not drawn. */
const NEAR = 0.02;
const STEPS_AT_ONCE = 1 << 13;

/**
 * All boundaries between labels, along the sides of pixels, each side's place moved to where the mixture of both values is
 * even. Outside the picture lies the ground, label 0.
 *
 * @see Freeman, "On the encoding of arbitrary geometric configurations", IRE Trans. EC-10, 1961, for following sides
 */
export function* arcsOf(parted: Parted, labels: Uint8Array): Work<Arc[]> {
  const { width, height } = parted;
  const across = width + 1;
  const label = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? 0 : labels[y * width + x];
  const [dx, dy] = [
    [1, 0, -1, 0],
    [0, 1, 0, -1],
  ];
  /** Pixels to the left and right of a side that leaves a corner some way. */
  const sides = (x: number, y: number, way: number): readonly [number, number, number, number] => {
    if (way === 0) return [x, y - 1, x, y];
    if (way === 1) return [x, y, x - 1, y];
    if (way === 2) return [x - 1, y, x - 1, y - 1];
    return [x - 1, y - 1, x, y - 1];
  };
  const isSide = (x: number, y: number, way: number): boolean => {
    const [lx, ly, rx, ry] = sides(x, y, way);
    return label(lx, ly) !== label(rx, ry);
  };
  const degree = (x: number, y: number): number =>
    +isSide(x, y, 0) + +isSide(x, y, 1) + +isSide(x, y, 2) + +isSide(x, y, 3);
  // A side is known by the corner it leaves to the right, or downwards.
  const passed = new Set<number>();
  const sideAt = (x: number, y: number, way: number): number => {
    const [cx, cy] = [way === 2 ? x - 1 : x, way === 3 ? y - 1 : y];
    return 2 * (cy * across + cx) + (way & 1);
  };
  const placeOn = (x: number, y: number, way: number): readonly [number, number] => {
    const [lx, ly, rx, ry] = sides(x, y, way);
    const [a, b] = [label(lx, ly), label(rx, ry)];
    const inside = (px: number, py: number) => px >= 0 && py >= 0 && px < width && py < height;
    const share = (px: number, py: number, usual: number) =>
      inside(px, py) ? shareOf(parted, py * width + px, a, b) : usual;
    const [p, q] = [share(lx, ly, a === 0 ? 1 : 0), share(rx, ry, b === 0 ? 0 : 1)];
    const t = p > q ? Math.max(NEAR, Math.min(1 - NEAR, (p - 0.5) / (p - q))) : 0.5;
    return [lx + 0.5 + (rx - lx) * t, ly + 0.5 + (ry - ly) * t];
  };
  let steps = 0;
  const arcs: Arc[] = [];
  function* follow(x0: number, y0: number, way0: number, closed: boolean): Work<void> {
    let [x, y, way] = [x0, y0, way0];
    const points: number[] = [];
    const [lx, ly, rx, ry] = sides(x, y, way);
    for (;;) {
      if (++steps % STEPS_AT_ONCE === 0) yield Math.min(1, y0 / height);
      passed.add(sideAt(x, y, way));
      points.push(...placeOn(x, y, way));
      x += dx[way];
      y += dy[way];
      if (closed ? x === x0 && y === y0 : degree(x, y) !== 2) break;
      for (const turn of [1, 0, 3])
        if (isSide(x, y, (way + turn) & 3)) {
          way = (way + turn) & 3;
          break;
        }
    }
    arcs.push({
      ...{ left: label(lx, ly), right: label(rx, ry), points, closed },
      ...{ from: y0 * across + x0, to: y * across + x, first: way0, last: way },
    });
  }
  for (const closed of [false, true])
    for (let y = 0; y <= height; y++) {
      yield (y / height + +closed) / 2;
      for (let x = 0; x <= width; x++) {
        if (
          label(x, y) === label(x - 1, y) &&
          label(x, y) === label(x, y - 1) &&
          label(x, y) === label(x - 1, y - 1)
        )
          continue;
        if (!closed && degree(x, y) === 2) continue;
        for (let way = 0; way < 4; way++)
          if (isSide(x, y, way) && !passed.has(sideAt(x, y, way))) yield* follow(x, y, way, closed);
      }
    }
  return withNodes(arcs, width, height);
}

/** Arcs that end where others do begin and end in one place: the middle of their nearest points, or the picture's edge. */
function withNodes(arcs: readonly Arc[], width: number, height: number): Arc[] {
  const around = new Map<number, number[]>();
  const add = (node: number, x: number, y: number) => around.set(node, [...(around.get(node) ?? []), x, y]);
  for (const { closed, from, to, points } of arcs) {
    if (closed) continue;
    add(from, points[0], points[1]);
    add(to, points[points.length - 2], points[points.length - 1]);
  }
  const place = (node: number): readonly [number, number] => {
    const [x, y] = [node % (width + 1), Math.floor(node / (width + 1))];
    if (x === 0 || y === 0 || x === width || y === height) return [x, y];
    const near = around.get(node)!;
    const mean = (c: number) =>
      near.reduce((sum, v, k) => (k % 2 === c ? sum + v : sum), 0) / (near.length / 2);
    return [mean(0), mean(1)];
  };
  return arcs.map((arc) =>
    arc.closed ? arc : { ...arc, points: [...place(arc.from), ...arc.points, ...place(arc.to)] },
  );
}

/** An arc as an area has it: run as it is, or the other way. */
export interface Run {
  readonly arc: number;
  readonly reversed: boolean;
}

/** The closed boundaries of a label's areas, each as the arcs that it runs along, with the area to the right. */
export function boundariesOf(arcs: readonly Arc[], label: number): Run[][] {
  const own = arcs.flatMap(({ left, right, closed }, arc): Run[] =>
    closed || left !== right
      ? [
          ...(right === label ? [{ arc, reversed: false }] : []),
          ...(left === label ? [{ arc, reversed: true }] : []),
        ]
      : [],
  );
  const begins = (run: Run) => (run.reversed ? arcs[run.arc].to : arcs[run.arc].from);
  const ends = (run: Run) => (run.reversed ? arcs[run.arc].from : arcs[run.arc].to);
  const firstWay = (run: Run) => (run.reversed ? (arcs[run.arc].last + 2) & 3 : arcs[run.arc].first);
  const lastWay = (run: Run) => (run.reversed ? (arcs[run.arc].first + 2) & 3 : arcs[run.arc].last);
  const starting = new Map<number, Run[]>();
  for (const run of own) starting.set(begins(run), [...(starting.get(begins(run)) ?? []), run]);
  const left = new Set(own);
  const rings: Run[][] = [];
  for (const start of own) {
    if (!left.has(start)) continue;
    const ring: Run[] = [];
    for (let run: Run | undefined = start; run && left.has(run);) {
      left.delete(run);
      ring.push(run);
      if (arcs[run.arc].closed) break;
      const way = lastWay(run);
      const next: readonly Run[] = starting.get(ends(run)) ?? [];
      // Keeping to the right, areas that only touch at a corner stay two.
      run = [1, 0, 3, 2].flatMap((turn) =>
        next.filter((n) => left.has(n) && firstWay(n) === ((way + turn) & 3)),
      )[0];
    }
    rings.push(ring);
  }
  return rings;
}
