import { codesOf } from "../../colour/oklab";
import { USUAL_LIMITS } from "../../inspect/limits";
import { proofIn } from "../../film/seen";
import { runToEnd } from "../../maths/work";
import { dimensionsOf } from "../../mockUp/dimensions";
import { layerOf } from "../../mockUp/layer";
import { measuredArea } from "../../mockUp/photoArea";
import { readyPhotos } from "../../mockUp/photos";
import { placed, placeWords, turnedBox } from "../../mockUp/place";
import { type MockUp } from "../../mockUp/result";
import { drawnThing, THINGS, thingOf } from "../../mockUp/things";
import { type Check } from "../../inspect/check";
import { type Rgba } from "../../raster/types";
import { colourway, type Colourway } from "../../recolour/colourway";
import { asItIs } from "../../result/finish";
import { type Picture, type Plates } from "../../result/result";
import { viewOf } from "../../result/view";
import { deliveredBy, inspectStage, runStage, settingsFor } from "../../testing/running";
import { stageById } from "../stages";
import { readPhotoThing } from "./settings";

/** A square of one colour, 100 by 100 mm at one pixel a mm, with a hole of 20 mm in its middle. */
function square(colour: string, sizeMm = 100): Picture {
  const data = new Uint8Array(4 * sizeMm * sizeMm);
  const half = sizeMm / 2;
  for (let y = 0, o = 0; y < sizeMm; y++)
    for (let x = 0; x < sizeMm; x++, o += 4)
      if (Math.abs(x + 0.5 - half) > 10 || Math.abs(y + 0.5 - half) > 10)
        data.set([...codesOf(colour), 255], o);
  const place = asItIs({ width: sizeMm, height: sizeMm });
  const finish = { ...place.finish, widthMm: sizeMm, heightMm: sizeMm, dotsPerInch: 25.4 };
  return {
    kind: "picture",
    ...place,
    finish,
    colour: { width: sizeMm, height: sizeMm, data },
    cleared: null,
  };
}

const made = (art: Picture | Plates, given: object): MockUp => runStage("mockUp", art, given) as MockUp;
function seen(of: MockUp, way?: Colourway, width = of.finish.widthPx): Rgba {
  const { widthPx, heightPx } = of.finish;
  const height = Math.round((width * heightPx) / widthPx);
  const part = { x: 0, y: 0, width: widthPx, height: heightPx };
  return runToEnd(viewOf(of, { part, width, height, base: 0xffffff, ...(way ? { way } : {}) }));
}
const codes = ({ width, data }: Rgba, x: number, y: number): number[] =>
  Array.from(
    data.subarray(
      4 * (Math.floor(y) * width + Math.floor(x)),
      4 * (Math.floor(y) * width + Math.floor(x)) + 3,
    ),
  );
const checks = (of: MockUp): Record<string, Check> =>
  Object.fromEntries(inspectStage("mockUp", of, {}, USUAL_LIMITS).checks.map((c) => [c.id, c]));

const shirt = drawnThing("t-shirt-front", "M");
/** Where the shirt's collar has its middle, in mm of the picture. */
const collar = shirt.areas[0].surfaces[0].seen(0, 0)!;

test("a print lies where it is placed, at its true size", () => {
  const red = square("#d02020");
  const of = made(red, {
    widthPx: Math.round(2 * shirt.widthMm),
    colour: "#f4f4f4",
    prints: [{ at: [30, 80] }],
  });
  const perMm = of.finish.widthPx / of.finish.widthMm;
  const picture = seen(of);
  const isRed = (x: number, y: number): boolean => {
    const [r, g] = codes(picture, x, y);
    return r > g + 50;
  };
  const y = (collar[1] + 80 + 25) * perMm;
  const row = Array.from({ length: picture.width }, (_, x) => isRed(x, y));
  const [left, right] = [row.indexOf(true), row.lastIndexOf(true)];
  // Half a pixel each way.
  expect(Math.abs(left - (collar[0] + 30 - 50) * perMm)).toBeLessThanOrEqual(1);
  expect(Math.abs(right + 1 - (collar[0] + 30 + 50) * perMm)).toBeLessThanOrEqual(1);
  const column = Array.from({ length: picture.height }, (_, v) => isRed((collar[0] + 30 + 25) * perMm, v));
  expect(Math.abs(column.indexOf(true) - (collar[1] + 80) * perMm)).toBeLessThanOrEqual(1);
  expect(Math.abs(column.lastIndexOf(true) + 1 - (collar[1] + 180) * perMm)).toBeLessThanOrEqual(1);
  // Through the hole the shirt is seen as it is without a print.
  const bare = seen(
    made(red, { widthPx: of.finish.widthPx, colour: "#f4f4f4", prints: [{ at: [30, 80], scale: 0.02 }] }),
  );
  const hole = [(collar[0] + 30) * perMm, (collar[1] + 130) * perMm + 4 * perMm] as const;
  expect(codes(picture, ...hole)).toEqual(codes(bare, ...hole));
});

test("a usual place is the same distance from the collar in every size", () => {
  const art = { width: 100, height: 80 };
  for (const size of thingOf("t-shirt-front").sizes) {
    const print = placed({ at: "full front", turn: 0, scale: 1 }, drawnThing("t-shirt-front", size), art);
    expect(placeWords(print)).toBe("Front: 75 mm below the collar, centred");
  }
  const chest = placed({ at: "left chest", turn: 30, scale: 0.5 }, shirt, art);
  // The upright box of 50 x 40 turned by 30 degrees: 50 cos 30 + 40 sin 30, 50 sin 30 + 40 cos 30.
  expect(turnedBox(50, 40, 30).map((v) => Math.round(100 * v) / 100)).toEqual([63.3, 59.64]);
  expect(chest.box.y).toBe(65);
  expect(placeWords(chest)).toBe(
    "Front: 65 mm below the collar, its middle 95 mm right of the middle line, turned 30°, at 50 % of its size",
  );
  expect(placed({ at: "left sleeve", turn: 0, scale: 1 }, shirt, art).area.name).toBe("Left sleeve");
});

test("ink hides the cloth, dye is coloured by it, a burn darkens wood", () => {
  const at = (given: object, sizeMm = 60): number[] => {
    const of = made(square("#30c040", sizeMm), { widthPx: 700, prints: [{ at: "usual" }], ...given });
    const scene = drawnThing(of.thing.kind === "drawn" ? of.thing.id : "mug", "");
    const print = placed({ at: "usual", turn: 0, scale: 1 }, scene, { width: sizeMm, height: sizeMm });
    const [x, y] = print.area.surfaces[0].seen(print.middle[0] - 0.4 * sizeMm, print.middle[1])!;
    const perMm = of.finish.widthPx / of.finish.widthMm;
    return codes(seen(of), x * perMm, y * perMm);
  };
  const [, green] = at({ colour: "#101010", ink: "onTop" });
  expect(green).toBeGreaterThan(140);
  expect(Math.max(...at({ colour: "#101010", ink: "inCloth" }))).toBeLessThan(25);
  const [r, g, b] = at({ colour: "#ffffff", ink: "inCloth" });
  expect(g).toBeGreaterThan(r + 60);
  expect(g).toBeGreaterThan(b + 60);
  const burned = at({ thing: "coaster" });
  expect(Math.max(...burned)).toBeLessThan(110);
});

test("what cannot be printed is found and shown where it is", () => {
  const fine = checks(made(square("#d02020"), { prints: [{ at: "full front" }] }));
  expect(Object.values(fine).map((c) => c.level)).toEqual(["fine", "fine", "fine", "fine", "fine"]);
  const large = checks(made(square("#d02020", 400), { prints: [{ at: "full front" }] })).printArea;
  expect(large.level).toBe("stop");
  // 400 mm on an area of 0.66 x 520 mm.
  expect(large.value).toBeCloseTo((400 - 0.66 * 520) / 2, 1);
  expect(large.places[0].xMm).toBeCloseTo(collar[0] - 200, 3);
  const pocket = checks(
    made(square("#d02020"), { thing: "hooded-front", prints: [{ at: [0, 300] }] }),
  ).overSeam;
  expect(pocket.level).toBe("look");
  // The pocket's upper edge runs right through: 100 mm of it.
  expect(pocket.value).toBeCloseTo(100, 1);
  const edge = checks(made(square("#d02020"), { prints: [{ at: [205, 300] }] }));
  expect(edge.nearEdge.level).toBe("look");
  expect(edge.nearEdge.value).toBeCloseTo(10 - (260 - 255), 1);
  const two = checks(made(square("#d02020"), { prints: [{ at: [0, 80] }, { at: [40, 100] }] })).overlap;
  expect(two.value).toBeCloseTo(60, 3);
});

test("in a colourway cloth and colours are others; wood stays wood", () => {
  const sand = colourway.parse({
    ...{ name: "Sand", garment: "#d8c8a0" },
    recolour: [{ from: "#d02020", to: { colour: "#2040d0" } }],
  });
  const of = made(square("#d02020"), { widthPx: 600, colour: "#202020", prints: [{ at: "full front" }] });
  const perMm = of.finish.widthPx / of.finish.widthMm;
  const [plain, other] = [seen(of), seen(of, sand)];
  const [onPrint, onCloth] = [
    [(collar[0] - 40) * perMm, (collar[1] + 125) * perMm],
    [collar[0] * perMm, (collar[1] + 350) * perMm],
  ] as const;
  expect(codes(plain, ...onPrint)[0]).toBeGreaterThan(codes(plain, ...onPrint)[2] + 80);
  expect(codes(other, ...onPrint)[2]).toBeGreaterThan(codes(other, ...onPrint)[0] + 80);
  expect(codes(other, ...onCloth)[0]).toBeGreaterThan(codes(plain, ...onCloth)[0] + 100);
  const wood = made(square("#d02020", 40), { thing: "coaster", widthPx: 300 });
  expect(codes(seen(wood, sand), 60, 150)).toEqual(codes(seen(wood), 60, 150));
});

test("a film print on any cloth is what its own proof on that cloth is", () => {
  const inks = [
    { name: "white", colour: "#f4f4f4", role: "underbase", spreadMm: -0.3 },
    { name: "red", colour: "#c8102e", opacity: 0.7 },
    { name: "blue", colour: "#2040c0", opacity: 0.4 },
  ];
  const films = runStage("films", square("#c8102e", 60), {
    separate: "tonal",
    garment: "#1a2340",
    inks,
  }) as Plates;
  const { onBlack, onWhite } = runToEnd(layerOf(films, 1, null, 0));
  const [w, h] = [onBlack.width - 2, onBlack.height - 2];
  const linear = (v: number): number =>
    v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4;
  const code = (l: number): number => 255 * (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055);
  for (const garment of [0x1a2340, 0xd0a030]) {
    const proof = runToEnd(proofIn(films, w, h, { garment }));
    for (let y = 0; y < h; y += 7)
      for (let x = 0; x < w; x += 7)
        for (let c = 0; c < 3; c++) {
          const [b, t] = [onBlack, onWhite].map((l) => linear(l.data[4 * ((y + 1) * l.width + x + 1) + c]));
          const own = code(b + (t - b) * linear((garment >> (16 - 8 * c)) & 255));
          expect(Math.abs(own - proof.data[4 * (y * w + x) + c])).toBeLessThan(2.5);
        }
  }
});

test("it is handed over as pictures and pages, each colourway, and a sheet of all there is to choose from", async () => {
  const given = { widthPx: 400, sheet: { things: ["mug"], sizes: ["S", "XL"] } };
  const of = made(square("#d02020", 60), given);
  const ways = ["Sand", "Moss"].map((name) => colourway.parse({ name, garment: "#d8c8a0" }));
  const files = await deliveredBy("mockUp", of, given, ways);
  expect(Object.keys(files)).toEqual([
    ...[
      "mockup.png",
      "mockup.pdf",
      "mockup-sand.png",
      "mockup-sand.pdf",
      "mockup-moss.png",
      "mockup-moss.pdf",
    ],
    ...["contact-sheet.png", "contact-sheet.pdf"],
  ]);
  const wide = new DataView(files["mockup.png"].buffer, files["mockup.png"].byteOffset).getUint32(16);
  expect(wide).toBe(400);
  // A shirt in two sizes and a mug, each in three colourways.
  const names = Buffer.from(files["contact-sheet.pdf"]).toString("latin1");
  expect([names.includes("/Way8 "), names.includes("/Way9 ")]).toEqual([true, false]);
  const alone = await deliveredBy("mockUp", made(square("#d02020", 60), { widthPx: 300 }), { widthPx: 300 });
  expect(Object.keys(alone)).toEqual(["mockup.png", "mockup.pdf"]);
});

describe("on a photograph", () => {
  const [W, H] = [300, 200];
  const KEY = "ab".repeat(32);
  /** Even cloth, darker towards the right. */
  const photo: Rgba = { width: W, height: H, data: new Uint8Array(4 * W * H) };
  for (let i = 0; i < W * H; i++)
    photo.data.set([200 - (i % W) / 3, 200 - (i % W) / 3, 200 - (i % W) / 3, 255].map(Math.round), 4 * i);
  const area = {
    kind: "flat",
    corners: [
      [0.1, 0.1],
      [0.9, 0.1],
      [0.9, 0.9],
      [0.1, 0.9],
    ],
    widthMm: 240,
    heightMm: 160,
  };
  const thing = (more: object = {}) => ({ photo: KEY, widthPx: W, heightPx: H, area, smoothMm: 0, ...more });
  beforeAll(() => readyPhotos([KEY], { photo: async () => photo }));

  test("a print lies on it in its light, and nothing else changes", () => {
    const of = made(square("#ffffff"), {
      thing: thing({ cloth: "#c8c8c8" }),
      widthPx: W,
      prints: [{ at: [0, 30] }],
    });
    const own = seen(of);
    expect(codes(own, 20, 20)).toEqual(codes(photo, 20, 20));
    // White ink where the cloth, 200 in full light, is seen as 166: 255 less by the same light.
    const [x, y] = [110, 100];
    const light = (v: number) => ((v / 255 + 0.055) / 1.055) ** 2.4;
    const want = 255 * (1.055 * (light(codes(photo, x, y)[0]) / light(200)) ** (1 / 2.4) - 0.055);
    expect(Math.abs(codes(own, x, y)[0] - want)).toBeLessThan(3);
  });

  test("what is in front hides it, and is told", () => {
    const stroke = {
      points: [
        [0.5, 0.1],
        [0.5, 0.9],
      ],
      sizeMm: 30,
    };
    const front = [{ op: "brush", paints: "away", strokes: [stroke] }];
    const of = made(square("#ff0000"), { thing: thing({ front }), widthPx: W, prints: [{ at: [0, 30] }] });
    expect(codes(seen(of), 150, 75)).toEqual(codes(photo, 150, 75));
    expect(codes(seen(of), 115, 75)[0]).toBeGreaterThan(codes(seen(of), 115, 75)[1] + 100);
    const hidden = checks(of).inFront;
    expect(hidden.level).toBe("look");
    // 30 of its 100 mm.
    expect(Math.abs(hidden.value - 30)).toBeLessThan(3);
  });

  test("two places a known distance apart say how large it is", () => {
    const scale = { from: [0.1, 0.5], to: [0.5, 0.5], mm: 60 } as const;
    const { widthMm: _w, heightMm: _h, ...corners } = area;
    const found = measuredArea({ ...corners, scale } as never, photo)!;
    expect(found.area.limits.width).toBeCloseTo(120, 3);
    expect(found.area.limits.height).toBeCloseTo(80, 3);
    expect(found.perMm).toBeCloseTo(2, 3);
  });

  test("what makes no sense is refused by name", () => {
    const refuse = (given: object, message: RegExp) =>
      expect(() => {
        const settings = settingsFor("mockUp", given);
        stageById("mockUp").admit!(settings, asItIs({ width: 10, height: 10 }));
      }).toThrow(message);
    refuse({ thing: "top-hat" }, /thing is "top-hat"; allowed: t-shirt-front, /);
    refuse({ thing: thing({ photo: "x" }) }, /photo is "x"; allowed: the SHA-256 of a photograph's file/);
    refuse(
      { thing: thing({ area: { ...area, corners: area.corners.map(() => [0.5, 0.5]) } }) },
      /places that a camera can have seen so/,
    );
    refuse({ prints: [] }, /prints/);
    expect(() => readPhotoThing({ ...thing(), smoothMm: -1 })).toThrow(/smoothMm is -1/);
    expect(() => made(square("#ff0000"), { thing: thing({ widthPx: 299 }) })).toThrow(
      /the photograph's own size, 300 x 200/,
    );
  });
});

test("its dimensioned drawing measures from the collar, from the middle line, and the print itself", () => {
  const of = made(square("#d02020"), { prints: [{ at: [60, 90] }] });
  const { words, outlines, measures } = dimensionsOf(of)!;
  expect(words).toEqual(["Front: 90 mm below the collar, its middle 60 mm right of the middle line"]);
  expect(outlines).toHaveLength(1);
  expect(measures.map((m) => m.words)).toEqual(["90 mm", "60 mm", "100 mm", "100 mm"]);
  const [down] = measures;
  expect(down.from.map((v, k) => v * (k ? shirt.heightMm : shirt.widthMm))).toEqual([
    expect.closeTo(collar[0] + 60, 6),
    expect.closeTo(collar[1], 6),
  ]);
});

test("every thing has an area, places on its areas, and room for them in its picture", () => {
  for (const { id, sizes } of THINGS)
    for (const size of sizes.length > 0 ? sizes : [""]) {
      const { areas, places, widthMm, heightMm } = drawnThing(id, size);
      expect(areas.length).toBeGreaterThan(0);
      for (const place of places) {
        const area = areas.find((a) => a.name === place.area)!;
        const { x, y, width, height } = area.limits;
        expect([
          id,
          place.name,
          place.at[0] >= x && place.at[0] <= x + width && place.at[1] >= y && place.at[1] < y + height,
        ]).toEqual([id, place.name, true]);
      }
      for (const area of areas)
        for (const surface of area.surfaces) {
          const { x, y, width, height } = area.limits;
          for (const at of [
            [x, y],
            [x + width, y + height],
          ] as const) {
            const place = surface.seen(...at);
            if (!place) continue;
            expect(place[0] > 0 && place[1] > 0 && place[0] < widthMm && place[1] < heightMm).toBe(true);
          }
        }
    }
});
