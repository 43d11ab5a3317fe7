import { type Noise } from "./noise";

export type Point = readonly [number, number];

/** Points along a Catmull-Rom spline through the given ones. */
export function curve(through: readonly Point[], steps = 24): Point[] {
  const out: Point[] = [];
  for (let i = 0; i + 1 < through.length; i++) {
    const [p0, p1, p2, p3] = [
      through[Math.max(0, i - 1)],
      through[i],
      through[i + 1],
      through[Math.min(through.length - 1, i + 2)],
    ];
    for (let s = 0; s < steps; s++) {
      const t = s / steps;
      const at = (k: 0 | 1) =>
        0.5 *
        (2 * p1[k] +
          (p2[k] - p0[k]) * t +
          (2 * p0[k] - 5 * p1[k] + 4 * p2[k] - p3[k]) * t * t +
          (3 * p1[k] - p0[k] - 3 * p2[k] + p3[k]) * t ** 3);
      out.push([at(0), at(1)]);
    }
  }
  out.push(through[through.length - 1]);
  return out;
}

/** A pen stroke as a closed outline: it swells, tapers and trembles as a hand's does. SVG path data. */
export function stroke(through: readonly Point[], width: number, noise: Noise): string {
  const line = curve(through, 14);
  const seed = noise.random() * 500;
  const left: string[] = [];
  const right: string[] = [];
  line.forEach(([x, y], i) => {
    const [ax, ay] = line[Math.max(0, i - 1)];
    const [bx, by] = line[Math.min(line.length - 1, i + 1)];
    const length = Math.hypot(bx - ax, by - ay) || 1;
    const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
    const along = i / (line.length - 1);
    const press =
      (0.35 + 0.65 * Math.sin(Math.PI * Math.min(1, 0.08 + along * 0.92)) ** 0.6) *
      (0.65 + 0.7 * noise.at(seed + i * 0.21, 3));
    const shake = (noise.at(seed + i * 0.16, 40) - 0.5) * width * 0.9;
    const half = (width * press) / 2;
    left.push(`${(x + nx * (shake + half)).toFixed(1)} ${(y + ny * (shake + half)).toFixed(1)}`);
    right.push(`${(x + nx * (shake - half)).toFixed(1)} ${(y + ny * (shake - half)).toFixed(1)}`);
  });
  return `M${left.join("L")}L${right.reverse().join("L")}Z`;
}
