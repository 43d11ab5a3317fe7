import { HarbourLight, Noise } from "@hardline/demo";

/** Raw pixels. */
export interface RawPicture {
  readonly what: string;
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
  readonly channels: 3 | 4;
}

/** A view of land and sea, of odd sides. */
export async function photograph(width = 613, height = 411): Promise<RawPicture> {
  const light = new HarbourLight({ pan: 0.1, lens: 0.4, tower: true }, 256).rows(width, height, 0, height);
  const data = Buffer.from(light.map((v) => 255 * Math.min(1, v * 0.7) ** (1 / 2.2)));
  return { what: "a view", data, width, height, channels: 3 };
}

/** Strong colours and hard edges on pale card, with the grain of a sensor. */
export async function cardPicture(seed = 0, width = 520, height = 330): Promise<RawPicture> {
  const noise = new Noise(90 + seed);
  const data = Buffer.alloc(width * height * 3);
  const inks = [
    [200, 30, 40],
    [20, 140, 60],
    [30, 50, 190],
    [240, 190, 20],
  ];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 3) {
      const cell = Math.floor((x + seed * 17) / 65) + 3 * Math.floor(y / 55);
      const ring = Math.hypot((x % 65) - 32, (y % 55) - 27) < 12 + (cell % 12);
      const ink = ring ? inks[cell % 4] : [244, 240, 230];
      for (let k = 0; k < 3; k++) data[i + k] = Math.min(255, ink[k] + 6 * (noise.random() - 0.5));
    }
  return { what: "a card", data, width, height, channels: 3 };
}

/** A soft disc of one colour on nothing. */
export async function rimPicture(side = 301): Promise<RawPicture> {
  const data = Buffer.alloc(side * side * 4);
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i += 4) {
      const away = Math.hypot(x - side / 2, y - side / 2) - side / 3;
      data.set([180 + (x % 60), 60, 90, Math.round(255 * Math.min(1, Math.max(0, 0.5 - away / 30)))], i);
    }
  return { what: "a soft disc", data, width: side, height: side, channels: 4 };
}
