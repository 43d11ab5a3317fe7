type Vec = [number, number, number];

export interface Hit {
  readonly distance: number;
  readonly normal: Vec;
  readonly albedo: number;
  readonly glass: boolean;
}

const [CX, CZ, BASE] = [15, 84, 9];
const REACH = 9;
const WHITE = 0.72;
const DARK = 0.06;

/** Parts of the tower and its cottage: distance to each from a point given relative to the foot of the tower. */
const hypot = Math.hypot;
const cone = (
  x: number,
  y: number,
  z: number,
  bottom: number,
  top: number,
  wide: number,
  narrow: number,
): number => {
  const t = Math.min(1, Math.max(0, (y - bottom) / (top - bottom)));
  const side = hypot(x, z) - (wide + (narrow - wide) * t);
  return Math.max(side * 0.98, bottom - y, y - top);
};
const box = (x: number, y: number, z: number, w: number, h: number, d: number): number =>
  Math.max(Math.abs(x) - w, Math.abs(y) - h, Math.abs(z) - d);

function nearest(x: number, y: number, z: number): { d: number; albedo: number; glass: boolean } {
  let found = { d: Infinity, albedo: WHITE, glass: false };
  const take = (d: number, albedo: number, glass = false) => {
    if (d < found.d) found = { d, albedo, glass };
  };
  const band = y > 4.6 && y < 6.7 ? DARK * 2.6 : WHITE;
  const window = Math.abs(x + 0.25) < 0.2 && z < 0 && (Math.abs(y - 3.4) < 0.36 || Math.abs(y - 7.7) < 0.34);
  take(cone(x, y, z, -1, 9.4, 1.75, 1.08), window ? DARK : band);
  take(cone(x, y, z, 9.3, 9.62, 1.62, 1.62), WHITE * 0.8); // gallery
  for (let k = 0; k < 12; k++) {
    const a = (k / 12) * 2 * Math.PI;
    take(cone(x - 1.55 * Math.cos(a), y, z - 1.55 * Math.sin(a), 9.6, 10.35, 0.035, 0.035), DARK);
  }
  take(Math.max(Math.abs(hypot(x, z) - 1.55) - 0.035, Math.abs(y - 10.35) - 0.035), DARK); // rail
  take(
    cone(x, y, z, 9.6, 11.05, 0.72, 0.72),
    Math.abs(((Math.atan2(z, x) / Math.PI) * 5) % 1) < 0.12 ? DARK : 0.2,
    true,
  );
  take(cone(x, y, z, 11.05, 11.2, 0.9, 0.9), DARK);
  take(cone(x, y, z, 11.2, 12.1, 0.86, 0.1), DARK * 1.6);
  take(hypot(x, y - 12.18, z) - 0.14, DARK);
  const [hx, hz] = [x + 4.6, z + 0.6]; // cottage
  const door = z < -2 && Math.abs(hx - 0.5) < 0.3 && y < 1.3;
  const pane = z < -2 && Math.abs(Math.abs(hx + 0.1) - 1.25) < 0.3 && Math.abs(y - 1.15) < 0.35;
  take(box(hx, y - 0.6, hz, 2.1, 1.6, 1.5), door || pane ? DARK : WHITE * 0.92);
  const roof = Math.max((y - 2.2) * 0.8 + Math.abs(hz) * 0.72 - 1.2, 2.1 - y, Math.abs(hx) - 2.3);
  take(roof, 0.13);
  take(box(hx - 1.5, y - 3.3, hz, 0.26, 0.75, 0.26), 0.3); // chimney
  take(Math.max(box(hx, y + 0.2, hz + 3.2, 7, 0.75, 0.16)), 0.34); // wall of the yard
  return found;
}

const distance = (x: number, y: number, z: number): number => nearest(x, y, z).d;

function march(from: Vec, ray: Vec, limit: number): number {
  // Only rays that pass near the tower's axis can meet it.
  const [ox, oy, oz] = [from[0] - CX, from[1] - BASE, from[2] - CZ];
  const level = ray[0] * ray[0] + ray[2] * ray[2];
  const closest = -(ox * ray[0] + oz * ray[2]) / level;
  if (hypot(ox + ray[0] * closest, oz + ray[2] * closest) > REACH) return -1;
  const half = REACH / Math.sqrt(level);
  for (
    let step = 0, t = Math.max(0.02, closest - half);
    step < 160 && t < Math.min(limit, closest + half);
    step++
  ) {
    const y = oy + ray[1] * t;
    if ((y > 13 && ray[1] > 0) || (y < -3 && ray[1] < 0)) return -1;
    const d = distance(ox + ray[0] * t, y, oz + ray[2] * t);
    if (d < 0.0006 * t + 0.004) return t;
    t += d * 0.85;
  }
  return -1;
}

export const lighthouse = {
  hit(from: Vec, ray: Vec, limit: number): Hit | null {
    const t = march(from, ray, limit);
    if (t < 0) return null;
    const [x, y, z] = [from[0] + ray[0] * t - CX, from[1] + ray[1] * t - BASE, from[2] + ray[2] * t - CZ];
    const e = 0.02;
    const n: Vec = [
      distance(x + e, y, z) - distance(x - e, y, z),
      distance(x, y + e, z) - distance(x, y - e, z),
      distance(x, y, z + e) - distance(x, y, z - e),
    ];
    const length = hypot(...n) || 1;
    const { albedo, glass } = nearest(x, y, z);
    return { distance: t, normal: [n[0] / length, n[1] / length, n[2] / length], albedo, glass };
  },
  shades: (p: Vec, sun: Vec): boolean =>
    march([p[0] + sun[0] * 0.4, p[1] + sun[1] * 0.4, p[2] + sun[2] * 0.4], sun, 60) >= 0,
};
