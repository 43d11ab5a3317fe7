import { areaAt, areaMap, boundedAreas, type Areas } from "../../areas/bounded";
import { inkOf } from "../../areas/inkOf";
import { underInk, type AreaColour } from "../../areas/underInk";
import { figure } from "../../inspect/check";
import { dotsPerMm } from "../../maths/units";
import { workSlice, type Work } from "../../maths/work";
import { toPixels } from "../../path/frame";
import { type Picture } from "../../result/result";
import { inspectBy } from "../checks";
import { defineStage, type Context } from "../stage";
import { COLOUR_CHECKS } from "./checks";
import { colourSettings, type ColourSettings } from "./settings";

/** A place that lies on a line belongs to the area within so many mm of it. */
const REACH_MM = 0.6;
/** Of a drawing in few pixels: so many at least. */
const REACH_PIXELS = 1.5;

/** A side of the map by which areas are pointed at. */
const MAP_PIXELS = 640;

/** Colours under the lines of a drawing, area by area. */
export const colour = defineStage({
  id: "colour",
  title: "Colour",
  settings: colourSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  // Areas, lines and distances are kept beside the picture.
  bytesADot: () => 4 + 5,
  turnedOn: (settings, by) => ({
    ...settings,
    areas: settings.areas.map(({ at, shade, ...area }) => ({
      ...area,
      at: by.at(at),
      ...(shade && { shade: { ...shade, to: by.at(shade.to) } }),
    })),
  }),
  *run({ picture }, settings: ColourSettings, { keep }): Work<Picture> {
    const areas = yield* workSlice(areasOf(picture, settings, keep), 0, 0.6);
    const { finish, frame } = picture;
    const on = { source: picture.colour, frame };
    const reach = Math.max(REACH_PIXELS, REACH_MM * dotsPerMm(finish));
    const found = settings.areas.map(({ at }) => areaAt(areas, ...toPixels(on, at), reach));
    const colourOf: (AreaColour | undefined)[] = [];
    // The last word counts.
    settings.areas.forEach(({ at, colour: own, shade }, k) => {
      if (found[k] < 0) return;
      colourOf[found[k]] =
        own === null ? undefined : { colour: own, ...(shade && { shade: placed(at, shade) }) };
    });
    function placed(at: readonly [number, number], shade: NonNullable<ColourSettings["areas"][0]["shade"]>) {
      return { colour: shade.colour, from: toPixels(on, at), to: toPixels(on, shade.to) };
    }
    const made = yield* workSlice(underInk(picture.colour, areas, colourOf), 0.6, 1);
    const mm2 = 1 / (dotsPerMm(finish) * dotsPerMm(finish));
    const coloured = {
      areas: found,
      mm2: found.map((area) => (area < 0 ? 0 : areas.sizes[area] * mm2)),
      map: areaMap(areas, MAP_PIXELS),
    };
    return { kind: "picture", finish, frame, colour: made, cleared: null, coloured };
  },
  *inspect(result, _taken, settings) {
    return yield* inspectBy(COLOUR_CHECKS, { result, settings });
  },
  readings: {
    areasColoured: { label: "Areas coloured" },
    colouredMm2: { label: "Coloured", unit: "mm²", decimals: 1 },
  },
  delivers: "coloured art",
  async *files({ colour: art, finish }, _settings, doing) {
    const { writeRgbaPng } = await import("../../format/png");
    const bytes = await doing(writeRgbaPng(art, finish.dotsPerInch));
    yield { name: "coloured.png", mediaType: "image/png", bytes };
  },
  summary: ({ areas, gapMm }) => {
    const count = areas.filter((a) => a.colour !== null).length;
    if (count === 0) return "nothing coloured yet";
    const colours = new Set(areas.flatMap((a) => a.colour ?? [])).size;
    return `${colours} ${colours === 1 ? "colour" : "colours"}, gaps to ${figure(gapMm, 2)} mm closed`;
  },
});

/** The areas of a drawing, which stay while only their colours change. */
export function* areasOf(
  picture: Picture,
  { lines, gapMm }: Pick<ColourSettings, "lines" | "gapMm">,
  keep: Context["keep"],
): Work<Areas> {
  const name = JSON.stringify([lines, gapMm]);
  const known = keep.get<{ readonly name: string; readonly areas: Areas }>("areas");
  if (known?.name === name) return known.areas;
  const { width, height } = picture.colour;
  const ink = yield* workSlice(inkOf(picture.colour), 0, 0.1);
  const dark = Math.max(1, Math.round(255 * lines));
  const work = boundedAreas(ink, width, height, dark, gapMm * dotsPerMm(picture.finish));
  const areas = yield* workSlice(work, 0.1, 1);
  keep.set("areas", { name, areas }, 5 * width * height);
  return areas;
}
