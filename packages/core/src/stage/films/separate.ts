import { labOfHex } from "../../film/glareLab";
import { coverOf, greyOf } from "../../colour/grey";
import { labDistance, numberOf } from "../../colour/oklab";
import { separateFlat } from "../../film/flat";
import { type Ink } from "../../film/ink";
import { faded, keptBeside } from "../../film/knockOut";
import { lightOf } from "../../film/model";
import { findBlackLevels, separateBlack } from "../../film/oneBlack";
import { type GivenAmount } from "../../film/process";
import { seenOn, separateTonal } from "../../film/tonal";
import { workSlice, type Work } from "../../maths/work";
import { type Rgba } from "../../raster/types";
import { type FilmsSettings } from "./settings";

/** What of an art's inks its separation hangs on: with the rest nothing is separated anew. */
export const separationOf = (settings: FilmsSettings, inks: readonly Ink[]): string => {
  const { separate, garment, knockOut, levels, blackGeneration, totalInk, highlightFrom } = settings;
  const own = inks.map(({ colour, opacity, role, flat, name }) => [
    colour,
    separate === "flat" ? 1 : opacity,
    role,
    flat,
    separate === "process" && name,
  ]);
  return JSON.stringify([separate, garment, knockOut, levels, blackGeneration, totalInk, highlightFrom, own]);
};

/**
 * Each ink's share of every pixel, as planes of grey, 255 = bare, before edges are moved. The plane of an underbase holds
 * what of the art is to be seen white by it alone; of many tones, all the white that is wanted under the others.
 *
 * @param quick  a first look will do
 */
export function* separated(
  art: Rgba,
  settings: FilmsSettings,
  inks: readonly Ink[],
  quick: boolean,
): Work<Uint8Array[]> {
  const planes = yield* workSlice(byKind(art, settings, inks, quick), 0, 0.9);
  const { knockOut, garment, separate } = settings;
  if (!knockOut || separate === "flat") return planes;
  const colours = new Uint32Array(art.data.buffer, art.data.byteOffset, art.width * art.height);
  const kept = yield* workSlice(keptBeside(colours, garment, knockOut), 0.9, 0.95);
  for (const plane of planes) yield* faded(plane, kept);
  return planes;
}

function byKind(
  art: Rgba,
  settings: FilmsSettings,
  inks: readonly Ink[],
  quick: boolean,
): Work<Uint8Array[]> {
  switch (settings.separate) {
    case "flat":
      return flat(art, settings, inks);
    case "black":
      return black(art, settings, inks);
    default:
      return tonal(art, settings, inks, quick);
  }
}

function* flat(art: Rgba, { garment, knockOut }: FilmsSettings, inks: readonly Ink[]): Work<Uint8Array[]> {
  const count = art.width * art.height;
  const given = inks.map((ink) => !isWhiteUnder(ink, inks));
  const colours = inks.filter((_, k) => given[k]).map((i) => i.colour);
  const planes = yield* separateFlat(art, { inks: colours, garment, tolerance: knockOut?.tolerance ?? 2 });
  let next = 0;
  return given.map((has) => (has ? planes[next++] : new Uint8Array(count).fill(255)));
}

/** White under the art that has no white of its own, as another ink prints it. */
const isWhiteUnder = (ink: Ink, inks: readonly Ink[]): boolean =>
  ink.role === "underbase" &&
  inks.some(
    (o) => o !== ink && o.role !== "underbase" && labDistance(labOfHex(o.colour), labOfHex(ink.colour)) < 8,
  );

function* black(art: Rgba, { levels }: FilmsSettings, inks: readonly Ink[]): Work<Uint8Array[]> {
  const count = art.width * art.height;
  const gray = yield* workSlice(greyOf(art), 0, 0.3);
  const cover = yield* workSlice(coverOf(art), 0.3, 0.5);
  const set =
    levels === "found"
      ? yield* workSlice(findBlackLevels(gray, cover), 0.5, 0.6)
      : { bare: Math.round(255 * levels.bare), full: Math.round(255 * levels.full) };
  const plane = yield* workSlice(separateBlack(gray, cover, set), 0.6, 1);
  const at = Math.max(
    0,
    inks.findIndex((i) => i.role === "ink"),
  );
  return inks.map((_, k) => (k === at ? plane : new Uint8Array(count).fill(255)));
}

/** So near an extra flat ink's colour the art is printed in it alone, in hundredths of OKLab. */
const FLAT = { tolerance: 6, softness: 3 };

function* tonal(
  art: Rgba,
  settings: FilmsSettings,
  inks: readonly Ink[],
  quick: boolean,
): Work<Uint8Array[]> {
  const { garment, separate, blackGeneration, totalInk, highlightFrom } = settings;
  const mixed = inks.filter((i) => !i.flat);
  const layers = mixed.map(({ colour, opacity }) => ({
    colour: numberOf(colour),
    light: lightOf(numberOf(colour)),
    opacity,
  }));
  const darkest = mixed.reduce((a, b) => (labOfHex(b.colour).l < labOfHex(a.colour).l ? b : a), mixed[0]);
  const given = mixed.map((ink): GivenAmount | undefined =>
    ink.role === "highlight"
      ? { kind: "highlight", from: highlightFrom }
      : separate === "process" && ink === darkest
        ? { kind: "black", most: blackGeneration }
        : undefined,
  );
  const total = separate === "process" ? totalInk / 100 : undefined;
  const planes = yield* workSlice(
    separateTonal(art, { layers, garment: numberOf(garment), given, total, quick }),
    0,
    0.8,
  );
  const seen = inks.some((i) => i.flat) ? yield* seenOn(art, numberOf(garment)) : null;
  const out: Uint8Array[] = [];
  let next = 0;
  for (const ink of inks) {
    if (!ink.flat) {
      out.push(planes[next++]);
      continue;
    }
    const left = yield* keptBeside(seen!, ink.colour, FLAT);
    for (const plane of planes) yield* faded(plane, left);
    out.push(left);
  }
  return out;
}
