import sharp from "sharp";
import { clamp, mix, Noise, ramp } from "./noise";
import { stroke, type Point } from "./pen";

const [W, H] = [2400, 1800];

/** A moored boat drawn with a dip pen: outlines, rigging, hatching, water. SVG in black on nothing. */
export function boatDrawing(): string {
  const noise = new Noise(31);
  const strokes: string[] = [];
  const pen = (width: number, ...points: Point[]) => strokes.push(stroke(points, width, noise));
  const hatch = (from: Point, to: Point, along: Point, count: number, width: number) => {
    for (let i = 0; i < count; i++) {
      const t = (i + 0.3 * noise.random()) / count;
      const [dx, dy] = [along[0] * t, along[1] * t];
      const short = 0.75 + 0.3 * noise.random();
      pen(
        width,
        [from[0] + dx, from[1] + dy],
        [mix(from[0], to[0], 0.5 * short) + dx + 4, mix(from[1], to[1], 0.5 * short) + dy],
        [mix(from[0], to[0], short) + dx, mix(from[1], to[1], short) + dy],
      );
    }
  };
  // hull
  pen(17, [420, 1010], [700, 1090], [1100, 1125], [1500, 1105], [1880, 960]);
  pen(15, [420, 1010], [450, 1130], [520, 1250], [600, 1330]);
  pen(20, [600, 1330], [950, 1372], [1330, 1362], [1640, 1310]);
  pen(15, [1640, 1310], [1770, 1180], [1850, 1060], [1880, 960]);
  pen(9, [440, 1070], [720, 1148], [1100, 1180], [1500, 1160], [1850, 1030]);
  pen(7, [470, 1150], [740, 1218], [1100, 1250], [1500, 1230], [1800, 1130]);
  pen(6, [520, 1240], [800, 1290], [1150, 1312], [1500, 1292], [1720, 1230]);
  hatch([520, 1180], [575, 1290], [560, 110], 30, 6);
  hatch([1120, 1270], [1150, 1350], [430, -20], 22, 6);
  hatch([1560, 1110], [1600, 1280], [200, -90], 13, 6);
  // cabin
  pen(13, [1180, 1110], [1185, 960], [1192, 850]);
  pen(13, [1560, 1090], [1555, 960], [1540, 846]);
  pen(15, [1140, 846], [1330, 822], [1600, 838]);
  pen(10, [1150, 872], [1340, 850], [1590, 864]);
  for (const x of [1240, 1350, 1455]) {
    pen(8, [x, 910], [x + 72, 906], [x + 74, 990], [x + 2, 994], [x, 910]);
    hatch([x + 8, 918], [x + 40, 986], [30, 0], 7, 5);
  }
  hatch([1200, 1010], [1200, 1100], [350, -10], 40, 5);
  // masts, boom, rigging
  pen(18, [870, 1110], [878, 700], [884, 250]);
  pen(13, [884, 640], [1050, 700], [1240, 760]);
  pen(10, [1620, 1070], [1624, 800], [1628, 560]);
  pen(5, [884, 262], [640, 640], [430, 1000]);
  pen(5, [884, 262], [1260, 560], [1626, 575]);
  pen(5, [884, 262], [760, 700], [700, 1085]);
  pen(5, [1628, 566], [1760, 760], [1872, 955]);
  pen(4, [884, 430], [1060, 600], [1236, 754]);
  for (let k = 1; k < 9; k++) pen(4, [884 - 21 * k, 262 + 92 * k], [884 - 14 * k, 266 + 92 * k]);
  pen(7, [884, 250], [950, 268], [1010, 252], [1004, 300], [940, 318], [884, 300]);
  hatch([896, 262], [900, 300], [100, 2], 12, 4);
  // nets and floats on deck
  for (let k = 0; k < 26; k++) {
    const [x, y] = [560 + noise.random() * 230, 1010 + noise.random() * 60];
    const r = 14 + noise.random() * 16;
    pen(5, [x - r, y], [x, y - r], [x + r, y], [x, y + r], [x - r, y]);
  }
  // quay, bollard, rope
  pen(16, [1990, 1130], [2180, 1118], [2330, 1124]);
  pen(13, [1990, 1130], [1984, 1300], [1990, 1440]);
  for (let k = 0; k < 4; k++) pen(7, [1992, 1200 + 70 * k], [2150, 1192 + 70 * k], [2330, 1198 + 70 * k]);
  for (let k = 0; k < 14; k++)
    pen(
      6,
      [2030 + 160 * (k % 2) + 46 * (k % 3), 1130 + 70 * Math.floor(k / 4)],
      [2032 + 160 * (k % 2) + 46 * (k % 3), 1195 + 70 * Math.floor(k / 4)],
    );
  hatch([1996, 1140], [2060, 1430], [60, 0], 9, 6);
  pen(14, [2080, 1118], [2076, 1060], [2090, 1036], [2130, 1036], [2142, 1062], [2138, 1116]);
  pen(8, [1878, 985], [1950, 1090], [2030, 1100], [2084, 1074]);
  // water
  for (let k = 0; k < 64; k++) {
    const y = 1380 + 5.4 * k + 14 * noise.random();
    const x = 260 + noise.random() * 1600;
    const length = 90 + noise.random() * 330;
    pen(
      4 + noise.random() * 5,
      [x, y],
      [x + length * 0.3, y - 9],
      [x + length * 0.6, y + 7],
      [x + length, y - 2],
    );
  }
  // birds
  for (const [x, y, s] of [
    [420, 420, 1],
    [560, 330, 0.7],
    [1420, 300, 0.9],
    [1960, 520, 1.1],
    [2090, 400, 0.6],
  ]) {
    pen(
      9 * s,
      [x - 80 * s, y - 6 * s],
      [x - 44 * s, y - 38 * s],
      [x, y],
      [x + 40 * s, y - 42 * s],
      [x + 84 * s, y - 14 * s],
    );
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}"><path d="${strokes.join("")}" fill-rule="nonzero"/></svg>`;
}

/** The drawing on laid paper, photographed at a kitchen table: light from one side, a hand's shadow, a soft lens. @param smaller  how many times, a divisor of 600 */
export async function inkDrawing(smaller = 1): Promise<Buffer> {
  const [width, height] = [W / smaller, H / smaller];
  const ink = await sharp(Buffer.from(boatDrawing()))
    .extractChannel(3)
    .resize(width)
    .blur(1.1)
    .raw()
    .toBuffer();
  const noise = new Noise(8);
  const out = Buffer.alloc(width * height * 3);
  for (let row = 0, i = 0; row < height; row++) {
    for (let column = 0; column < width; column++, i++) {
      const [x, y] = [column * smaller, row * smaller];
      const fibre = noise.octaves(x * 0.16, y * 0.05, 3) - 0.5;
      const laid = Math.sin(y * 0.42) * 0.006;
      const paper = 0.9 + 0.05 * fibre + laid + 0.03 * (noise.octaves(x * 0.004, y * 0.004, 3) - 0.5);
      const lamp = 1.02 - 0.46 * ramp(200, 2500, x * 0.86 + y * 0.5) - 0.1 * ramp(900, 1800, y);
      const hand = 1 - 0.2 * ramp(0, 1, 1 - Math.hypot((x - 2250) / 620, (y - 1700) / 420));
      const wet = (ink[i] / 255) * (0.86 + 0.16 * noise.octaves(x * 0.06, y * 0.06, 3));
      const light = lamp * hand * mix(paper, 0.1, clamp(wet));
      const grain = (noise.random() - 0.5) * 0.035;
      out[i * 3] = 255 * clamp(light * 1.0 + grain);
      out[i * 3 + 1] = 255 * clamp(light * 0.965 + grain);
      out[i * 3 + 2] = 255 * clamp(light * mix(0.86, 0.9, clamp(wet)) + grain);
    }
  }
  return sharp(out, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 86 })
    .toBuffer();
}
