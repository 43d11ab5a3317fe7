import { readRoute } from "@hardline/core/route/route";
import sharp from "sharp";
import { anchorTag, badgeAsJpeg, houseNumber } from "./flatArt";
import { photograph } from "./photograph";
import { TICKETS } from "./scenario";

test("a photograph has light and dark, detail and noise, and is the same every time", async () => {
  const [one, other] = await Promise.all([photograph(150, 100, 90), photograph(150, 100, 90)]);
  expect(one.equals(other)).toBe(true);
  const { channels } = await sharp(one).stats();
  expect(Math.max(...channels.map((c) => c.max))).toBeGreaterThan(200);
  expect(Math.min(...channels.map((c) => c.min))).toBeLessThan(40);
  expect(channels[1].stdev).toBeGreaterThan(30);
});

test("the badge comes on a white box with the noise of its compression", async () => {
  const { data, info } = await sharp(await badgeAsJpeg())
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => data[(y * info.width + x) * 3];
  expect(at(2, 2)).toBeGreaterThan(250);
  const alongTheRim = new Set(Array.from({ length: 60 }, (_, k) => at(20 + k, info.height >> 1)));
  expect(alongTheRim.size).toBeGreaterThan(5);
});

test("drawn shapes can be drawn", async () => {
  for (const svg of [anchorTag(), houseNumber()]) {
    expect((await sharp(Buffer.from(svg)).stats()).channels[3].mean).toBeGreaterThan(20);
  }
});

test("every route of the scenario is one that can be run", () => {
  const routes = TICKETS.flatMap((t) => t.routes);
  for (const { name, stages, colourways } of routes)
    expect(
      readRoute({ format: "hard-line-route", version: 1, name, colourways, stages }).stages,
    ).toHaveLength(stages.length);
  expect(TICKETS.length).toBeGreaterThanOrEqual(8);
});
