import { type Rgba } from "@hardline/core/raster/types";

export interface DarkPicture {
  readonly name: string;
  readonly unseen: boolean;
  readonly picture: Rgba;
}

export const DARK_SIDE = 260;

type Colour = readonly [number, number, number];
/** A picture by the code values at each place, both 0..1 across. */
type Drawn = (x: number, y: number) => Colour;

const glow = (x: number, y: number, cx: number, cy: number, radius: number): number =>
  Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (radius * radius));
const { sin, abs, max, hypot, atan2, exp } = Math;
const sum = (...colours: Colour[]): Colour =>
  [0, 1, 2].map((c) => colours.reduce((s, one) => s + one[c], 0)) as unknown as Colour;
const times = (by: number, [r, g, b]: Colour): Colour => [by * r, by * g, by * b];

const SEEN: Record<string, Drawn> = {
  eye(x, y) {
    const r = hypot(x - 0.5, y - 0.5);
    const iris = exp(-(((r - 0.2) / 0.07) ** 2)) * (0.6 + 0.4 * sin(40 * atan2(y - 0.5, x - 0.5) + r * 30));
    const light = times(glow(x, y, 0.45, 0.42, 0.04), [150, 150, 170]);
    return sum([8, 6, 10], times(iris, [90, 60, 25]), light, times(glow(x, y, 0.5, 0.5, 0.5), [0, 20, 12]));
  },
  "street at night": (x, y) =>
    sum(
      [6, 8, 22 * (1 - y)],
      ...Array.from({ length: 12 }, (_, k) => {
        const [cx, cy] = [((k * 37) % 100) / 100, 0.3 + ((k * 53) % 60) / 100];
        return times(glow(x, y, cx, cy, 0.03 + 0.02 * (k % 3)), [230, k % 2 ? 180 : 110, k % 2 ? 90 : 30]);
      }),
    ),
  embers(x, y) {
    const v = max(0, sin(9 * x + 4 * sin(7 * y)) * sin(11 * y + 3 * x));
    const w = v ** 4;
    return [4 + 220 * w + 18 * v, 3 + 90 * w * w, 4 + 20 * w ** 3];
  },
  sea(x, y) {
    const v = 0.5 + 0.5 * sin(14 * x + 6 * sin(5 * y));
    const light = glow(x, y, 0.7, 0.2, 0.2);
    return [2 + 10 * v * v * (1 - y), 10 + 60 * v * (1 - y) + 20 * light, 20 + 80 * (1 - y) * v + 30 * light];
  },
  fur(x, y) {
    const v = glow(x, y, 0.5, 0.55, 0.3) * (0.4 + 0.6 * abs(sin(60 * x + 20 * sin(18 * y))));
    return sum(times(v, [70, 74, 82]), times(glow(x, y, 0.4, 0.45, 0.025), [200, 170, 20]), [3, 3, 5]);
  },
  wine: (x, y) =>
    sum(
      [10, 4, 8],
      times(glow(x, y, 0.4, 0.5, 0.25), [100, 12, 30]),
      times(glow(x, y, 0.65, 0.4, 0.15), [40, 10, 60]),
    ),
};

const UNSEEN: Record<string, Drawn> = {
  forest(x, y) {
    const trunk = abs(sin(23 * x + 2 * sin(6 * y))) ** 6;
    return sum(
      [5, 9, 7],
      times(trunk * (1 - y), [22, 48, 30]),
      times(glow(x, y, 0.6, 0.1, 0.35), [60, 80, 40]),
    );
  },
  cave: (x, y) =>
    sum(
      [9, 7, 6],
      times(glow(x, y, 0.3, 0.6, 0.2) * (0.7 + 0.3 * sin(50 * y)), [160, 96, 40]),
      times(glow(x, y, 0.75, 0.3, 0.25), [16, 34, 52]),
    ),
  plum: (x, y) =>
    sum(
      [14, 6, 20],
      times(0.5 + 0.5 * sin(9 * x * y + 4 * x), [34, 8, 46]),
      times(glow(x, y, 0.35, 0.3, 0.06), [120, 110, 140]),
    ),
  beetle(x, y) {
    const back = glow(x, y, 0.5, 0.5, 0.28);
    return sum([4, 4, 4], times(back * (0.5 + 0.5 * sin(30 * x)), [6, 90, 60]), times(back, [30, 10, 44]));
  },
  coal: (x, y) =>
    times(1, [
      12 + 26 * abs(sin(17 * x + 9 * y)) + 8 * y,
      13 + 25 * abs(sin(17 * x + 9 * y)) + 9 * y,
      16 + 26 * abs(sin(17 * x + 9 * y)) + 10 * y,
    ]),
  lantern: (x, y) =>
    sum(
      [8, 5, 3],
      times(glow(x, y, 0.5, 0.55, 0.09), [240, 190, 90]),
      times(glow(x, y, 0.5, 0.55, 0.3), [70, 34, 8]),
    ),
};

/** Pictures that are nearly black, with a grain of three code values; those that set no rule first. */
export function darkPictures(): DarkPicture[] {
  const of = (list: Record<string, Drawn>, unseen: boolean): DarkPicture[] =>
    Object.entries(list).map(([name, drawn]) => ({ name, unseen, picture: pictureOf(drawn) }));
  return [...of(UNSEEN, true), ...of(SEEN, false)];
}

function pictureOf(drawn: Drawn): Rgba {
  let seed = 11;
  const chance = (): number => (seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff;
  const data = new Uint8ClampedArray(4 * DARK_SIDE * DARK_SIDE);
  for (let i = 0; i < DARK_SIDE * DARK_SIDE; i++) {
    const colour = drawn((i % DARK_SIDE) / DARK_SIDE, Math.floor(i / DARK_SIDE) / DARK_SIDE);
    colour.forEach((v, c) => (data[4 * i + c] = v + 6 * (chance() - 0.5)));
    data[4 * i + 3] = 255;
  }
  return { width: DARK_SIDE, height: DARK_SIDE, data: new Uint8Array(data.buffer) };
}
