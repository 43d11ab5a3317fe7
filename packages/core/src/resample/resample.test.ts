import { LINEAR_OF_CODE } from "../colour/srgb";
import { runToEnd } from "../maths/work";
import { asRgba, grayOf, randomGray, randomRgba } from "../testing/pictures";
import { contributions, FILTERS } from "./filters";
import { resampleGray, resampleRgba } from "./resample";

const toCode = (l: number) => 255 * (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055);

describe("resample", () => {
  test("same size gives the same picture, untouched", () => {
    const picture = randomGray(7, 5, 2);
    expect(runToEnd(resampleGray(picture, 7, 5, "lanczos3"))).toBe(picture);
  });

  test.each(["lanczos3", "bicubic", "box"] as const)(
    "%s keeps an even tone even, larger and smaller",
    (filter) => {
      for (const g of [0, 1, 13, 128, 254, 255])
        for (const [w, h] of [
          [40, 31],
          [5, 3],
          [1, 1],
        ]) {
          expect(
            new Set(
              runToEnd(
                resampleGray(
                  grayOf(17, 13, () => g),
                  w,
                  h,
                  filter,
                ),
              ).data,
            ),
          ).toEqual(new Set([g]));
        }
    },
  );

  test("box averages light, not code: black and white in turn give the code of half the light", () => {
    const stripes = grayOf(64, 64, (x) => (x & 1) * 255);
    expect(new Set(runToEnd(resampleGray(stripes, 32, 32, "box")).data)).toEqual(new Set([188]));
  });

  test.each(["lanczos3", "bicubic"] as const)(
    "%s equals a direct sum over the plane in double precision",
    (name) => {
      const picture = randomGray(19, 14, 8);
      const filter = FILTERS[name];
      for (const [w, h] of [
        [11, 9],
        [31, 29],
      ]) {
        const out = runToEnd(resampleGray(picture, w, h, name));
        const weightsAt = (o: number, from: number, to: number) => {
          const scale = from / to;
          const wide = Math.max(1, scale);
          const raw = Array.from({ length: from }, (_, i) =>
            filter.weight((i + 0.5 - (o + 0.5) * scale) / wide),
          );
          const sum = raw.reduce((a, b) => a + b);
          return raw.map((v) => v / sum);
        };
        for (let y = 0; y < h; y++)
          for (let x = 0; x < w; x++) {
            const wx = weightsAt(x, 19, w);
            const wy = weightsAt(y, 14, h);
            let light = 0;
            for (let j = 0; j < 14; j++)
              for (let i = 0; i < 19; i++) light += wy[j] * wx[i] * LINEAR_OF_CODE[picture.data[j * 19 + i]];
            expect(Math.abs(out.data[y * w + x] - toCode(Math.min(1, Math.max(0, light))))).toBeLessThan(
              0.75,
            );
          }
      }
    },
  );

  test("colour with full cover equals each channel by itself", () => {
    const picture = randomRgba(21, 16, 6, true);
    const out = runToEnd(resampleRgba(picture, 12, 10, "lanczos3"));
    for (let c = 0; c < 3; c++) {
      const channel = grayOf(21, 16, (x, y) => picture.data[(y * 21 + x) * 4 + c]);
      const alone = runToEnd(resampleGray(channel, 12, 10, "lanczos3"));
      for (let i = 0; i < 120; i++) expect(out.data[i * 4 + c]).toBe(alone.data[i]);
    }
  });

  test("what lies under clear pixels never bleeds into the art", () => {
    const half = (hidden: number) =>
      asRgba(
        grayOf(32, 8, (x) => (x < 16 ? 60 : hidden)),
        (x) => (x < 16 ? 255 : 0),
      );
    const [a, b] = [0, 255].map((hidden) => runToEnd(resampleRgba(half(hidden), 13, 5, "lanczos3")).data);
    for (let i = 0; i < a.length; i += 4) {
      expect(a[i + 3]).toBe(b[i + 3]);
      if (a[i + 3] > 0) expect([a[i], b[i]]).toEqual([60, 60]);
    }
  });
});

test("made so much smaller that its rows are not held, a picture is what its weights say", () => {
  const picture = randomGray(20000, 1700, 5);
  const out = runToEnd(resampleGray(picture, 3, 2, "lanczos3"));
  const [across, down] = [contributions(20000, 3, "lanczos3"), contributions(1700, 2, "lanczos3")];
  for (let y = 0; y < 2; y++)
    for (let x = 0; x < 3; x++) {
      let sum = 0;
      for (let t = 0; t < down.taps; t++) {
        let row = 0;
        const start = (down.first[y] + t) * 20000 + across.first[x];
        for (let u = 0; u < across.taps; u++)
          row += across.weights[x * across.taps + u] * LINEAR_OF_CODE[picture.data[start + u]];
        sum += down.weights[y * down.taps + t] * row;
      }
      expect(Math.abs(out.data[y * 3 + x] - toCode(sum))).toBeLessThan(1);
    }
});
