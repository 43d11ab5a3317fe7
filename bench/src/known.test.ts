import { readArtwork } from "@hardline/core/reading/reading";
import {
  CUT_OUT_NAMES,
  cutOutPicture,
  KIND_PICTURES,
  liftPicture,
  pixelsOf,
  rimPicture,
  scenePicture,
} from "@hardline/demo";
import { DEMO_CLEARS, measureClear } from "./clearTable";
import { measureCutOut } from "./cutOutTable";
import { measureLift } from "./liftTable";
import { measureRim } from "./rimTable";
import { measureScene } from "./sceneTable";

/* A part of what `npm run cutouts`, `npm run clears` and `npm run kinds` print in full. */
test.each(["white feather on dark cloth"])(
  "cut out by six scribbles to within two percent of its true cover in the band: %s",
  async (name) => {
    const row = measureCutOut(await cutOutPicture(name));
    expect(row.band).toBeLessThan(2);
    expect(row.share).toBeGreaterThan(5);
  },
);

test("watercolour comes off white paper by a pick and its gaps, soft edges and all", async () => {
  const row = await measureClear(DEMO_CLEARS.find((d) => d.name.includes("watercolour"))!);
  expect(row.mean).toBeLessThan(1.3);
  expect(row.wrong).toBeLessThan(0.01);
  expect(row.left).toBeLessThan(0.001);
  expect(row.checks.find((c) => c.id === "edgeRim")!.level).toBe("fine");
});

test("there are twelve and more such pictures, and fifty of known kind", () => {
  expect(CUT_OUT_NAMES.length).toBeGreaterThanOrEqual(12);
  expect(KIND_PICTURES.length).toBeGreaterThanOrEqual(50);
});

const SHORT = ["handwriting, turned 3 degrees", "badge on white, JPEG", "poster 3", "anchor, clear ground"];
test.each(SHORT)("is read as what it is: %s", async (name) => {
  const known = KIND_PICTURES.find((k) => k.name === name)!;
  const picture = await pixelsOf(await known.make());
  const read = readArtwork(picture, { width: picture.width, height: picture.height, vector: false });
  expect(read.kind).toBe(known.kind);
  if (known.light) expect(read.light).toBe(known.light);
  if (known.skew) expect(Math.abs(read.skew! - known.skew)).toBeLessThanOrEqual(0.5);
});

test("ink comes off unevenly lit paper to within a hundredth, a large solid shape and all", async () => {
  for (const name of ["boat, window from the left", "block print, a third black, lamp"]) {
    const row = await measureLift(await liftPicture(name), "read");
    expect(row.band).toBeLessThan(1);
    expect(row.navy).toBeLessThan(4);
    expect(row.lost).toBeLessThan(0.1);
  }
});

test.each(["scene 2"])("a many-coloured subject comes out whole: %s", async (name) => {
  const row = measureScene(await scenePicture(name));
  expect(row.band).toBeLessThan(3);
  expect(row.band).toBeLessThan(row.plain + 0.3);
  expect(row.lost).toBeLessThan(0.5);
});

test("the rim of flat shapes on a coloured ground carries nothing of it", async () => {
  const row = await measureRim(await rimPicture({ family: "flat shapes", seed: 1, quality: 90 }));
  expect(row.band).toBeLessThan(0.5);
  expect(row.pale).toBeLessThan(2);
});
