import { USUAL_LIMITS } from "../../inspect/limits";
import { furtherTurn } from "../../turn/further";
import { type Rgba } from "../../raster/types";
import { as, type Picture } from "../../result/result";
import { inspectStage, runStage } from "../../testing/running";
import { artFrom } from "../../testing/clearings";
import { colour } from "./colour";
import { colourSettings } from "./settings";

/** Two rings, one in the other, in black on nothing: a middle, a band and the ground. */
const rings = (): Rgba => {
  const data = new Uint8Array(4 * 120 * 120);
  for (let y = 0; y < 120; y++)
    for (let x = 0; x < 120; x++) {
      const r = Math.hypot(x - 60, y - 60);
      if (Math.abs(r - 50) < 3 || Math.abs(r - 25) < 3) data[4 * (120 * y + x) + 3] = 255;
    }
  return { width: 120, height: 120, data };
};

const run = (settings: object): Picture => as(runStage("colour", artFrom(rings()), settings), "picture");
const at = ({ colour: { data, width } }: Picture, x: number, y: number) =>
  Array.from(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4));
const MIDDLE = [0.5, 0.5];
const BAND = [0.5, 0.18];

test("areas take their colours, lines stay, the ground stays clear", () => {
  const made = run({
    areas: [
      { at: MIDDLE, colour: "#ff8000" },
      { at: BAND, colour: "#0080ff" },
    ],
  });
  expect(at(made, 60, 60)).toEqual([255, 128, 0, 255]);
  expect(at(made, 60, 22)).toEqual([0, 128, 255, 255]);
  expect(at(made, 60, 10)).toEqual([0, 0, 0, 255]);
  expect(at(made, 2, 2)).toEqual([0, 0, 0, 0]);
});

test("the last word counts, and one that takes a colour back leaves the area as it is", () => {
  const made = run({
    areas: [
      { at: MIDDLE, colour: "#ff8000" },
      { at: [0.45, 0.5], colour: "#00ff00" },
      { at: BAND, colour: "#0080ff" },
      { at: [0.5, 0.82], colour: null },
    ],
  });
  expect(at(made, 60, 60)).toEqual([0, 255, 0, 255]);
  expect(at(made, 60, 22)[3]).toBe(0);
});

test("what lies on a line is lost and told, two colours in one area are told", () => {
  const settings = colourSettings.parse({
    areas: [
      { at: MIDDLE, colour: "#ff8000" },
      { at: [0.42, 0.5], colour: "#00ff00" },
      { at: [0.5, 10 / 120], colour: "#0080ff" },
    ],
    gapMm: 0,
  });
  const result = run(settings);
  const { checks, readings } = inspectStage("colour", result, settings, USUAL_LIMITS);
  const level = (id: string) => checks.find((c) => c.id === id)!;
  expect(level("coloursTogether")).toMatchObject({ level: "look", value: 1 });
  expect(readings.areasColoured).toBeGreaterThan(0);
  // Ten pixels down lies the middle of the outer ring; within 0.6 mm of it are areas at this resolution or not.
  expect(level("coloursLost").value).toBe(result.coloured!.areas.filter((a) => a < 0).length);
});

test("places turn with the artwork", () => {
  const by = furtherTurn("right", { widthMm: 10, heightMm: 10 });
  const settings = colourSettings.parse({
    areas: [{ at: [0.2, 0.1], colour: "#ff8000", shade: { colour: "#000000", to: [0.3, 0.4] } }],
  });
  const [turned] = colour.turnedOn!(settings, by).areas;
  expect(turned.at.map((v) => Math.round(v * 100) / 100)).toEqual([0.9, 0.2]);
  expect(turned.shade!.to.map((v) => Math.round(v * 100) / 100)).toEqual([0.6, 0.3]);
});
