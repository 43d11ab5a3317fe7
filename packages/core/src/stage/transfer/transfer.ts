import { numberOf } from "../../colour/oklab";
import { scattered } from "../../screen/dotting";
import { faded, keptBeside } from "../../film/knockOut";
import { chokedBy, shapeOf, squaredInside } from "../../film/moveEdge";
import { vivid } from "../../film/vivid";
import { figure } from "../../inspect/check";
import { copied } from "../../maths/copy";
import { inStretches, workSlice, rowsAtOnce, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { unpackRow } from "../../raster/bits";
import { type Rgba } from "../../raster/types";
import { type Finish } from "../../result/finish";
import { type Picture } from "../../result/result";
import { markByMask } from "../../screen/mask";
import { applyTable } from "../../tone/levels";
import { inspectBy } from "../checks";
import { defineStage } from "../stage";
import { aboutTransfer, TRANSFER_CHECKS } from "./checks";
import { transferSettings, type TransferSettings } from "./settings";

/** Colour art with its true transparency, and the white that lies under it. */
export const transfer = defineStage({
  id: "transfer",
  title: "Transfer",
  settings: transferSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  *run({ picture }, settings: TransferSettings, { keep }): Work<Picture> {
    const { garment, knockOut, black, saturation, white, edges } = settings;
    const { finish, frame, outline } = picture;
    const { width, height } = picture.colour;
    const colour = yield* workSlice(vivid(picture.colour, black, saturation), 0, 0.2);
    let bare = yield* workSlice(bareOf(picture.colour), 0.2, 0.25);
    if (knockOut) {
      const own = picture.colour.data;
      const codes = new Uint32Array(own.buffer, own.byteOffset, width * height);
      const kept = yield* workSlice(keptBeside(codes, garment, knockOut), 0.25, 0.35);
      yield* workSlice(faded(bare, kept), 0.35, 0.4);
    }
    if (edges === "dots") bare = yield* workSlice(inDots(bare, finish, settings.dotMm), 0.4, 0.5);
    const art = yield* workSlice(withAlpha(colour, bare), 0.5, 0.55);
    const name = JSON.stringify([garment, knockOut, edges, settings.dotMm]);
    const at = "inside";
    const distances = {
      get: () => {
        const known = keep.get<{ readonly name: string; readonly squared: Int32Array }>(at);
        return known?.name === name ? known.squared : undefined;
      },
      set: (squared: Int32Array) => keep.set(at, { name, squared }, squared.byteLength),
    };
    const under = yield* workSlice(whiteUnder(bare, finish, white, distances), 0.55, 1);
    return {
      kind: "picture",
      finish,
      frame,
      ...(outline ? { outline } : {}),
      colour: art,
      cleared: null,
      onGarment: { white: under, garment: numberOf(garment) },
    };
  },
  *inspect(result, _taken, settings, limits) {
    const about = yield* workSlice(aboutTransfer(result, settings, limits), 0, 0.1);
    return yield* workSlice(inspectBy(TRANSFER_CHECKS, about), 0.1, 1);
  },
  readings: {
    artPercent: { label: "Art", unit: "%", decimals: 1 },
    softPercent: { label: "Part covered", unit: "%", decimals: 2 },
    whitePercent: { label: "White layer", unit: "%", decimals: 1 },
    whiteMm2: { label: "White area", unit: "mm²", decimals: 1 },
  },
  delivers: "transfer",
  async *files(picture, settings, doing) {
    const { transferFiles } = await import("./files");
    yield* transferFiles(picture, settings, doing);
  },
  limits: ["areaMm2", "registerMm"],
  summary: ({ edges, white, mirror, black, saturation, knockOut }) =>
    [
      edges === "dots" ? "edges in dots" : "soft edges",
      `white ${figure(100 * white.strength, 0)} %, choked ${figure(white.chokeMm, 2)} mm`,
      black > 0 && `black from ${figure(100 * black, 0)} %`,
      saturation !== 1 && `saturation ${figure(100 * saturation, 0)} %`,
      knockOut && "garment taken out",
      mirror && "mirrored",
    ]
      .filter(Boolean)
      .join(", "),
});

/** The art's alpha turned round, as plates are: greys, 255 = bare. */
function* bareOf({ data, width, height }: Rgba): Work<Uint8Array> {
  const bare = new Uint8Array(width * height);
  yield* inStretches(bare.length, (from, to) => {
    for (let i = from; i < to; i++) bare[i] = 255 - data[4 * i + 3];
  });
  return bare;
}

function* withAlpha({ width, height, data }: Rgba, bare: Uint8Array): Work<Rgba> {
  const out = yield* workSlice(copied(data), 0, 0.4);
  yield* workSlice(
    inStretches(bare.length, (from, to) => {
      for (let i = from; i < to; i++) out[4 * i + 3] = 255 - bare[i];
    }),
    0.4,
    1,
  );
  return { width, height, data: out };
}

/** Every pixel either whole or none: soft ones by scattered dots of a size. */
function* inDots(bare: Uint8Array, finish: Finish, dotMm: number): Work<Uint8Array> {
  const { widthPx: width, heightPx: height } = finish;
  const { mask } = scattered(dotMm, 0, finish.dotsPerInch);
  const bits = yield* workSlice(markByMask({ width, height, data: bare }, mask), 0, 0.5);
  const out = new Uint8Array(bare.length);
  const row = new Uint8Array(width);
  const atOnce = rowsAtOnce(2 * width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.5 + (0.5 * y) / height;
    unpackRow(bits, y, row);
    for (let x = 0, i = y * width; x < width; x++, i++) out[i] = row[x] ? 0 : 255;
  }
  return out;
}

/** Art of this much cover is whole; softer art at an edge shows white through, so white begins where it ends. */
const WHOLE = 6;
/** So far in from the edge soft art is a wash, and wants its white. */
const WASH_MM = 1;

/**
 * As much white as there is art, pulled in from where whole art ends: 255 = full.
 * @param kept  distances from the time before, where nothing of the art has changed
 */
function* whiteUnder(
  art: Uint8Array,
  finish: Finish,
  { chokeMm, strength }: TransferSettings["white"],
  kept: { get: () => Int32Array | undefined; set: (squared: Int32Array) => void },
): Work<Uint8Array> {
  const { widthPx: width, heightPx: height } = finish;
  const weak = Uint8Array.from({ length: 256 }, (_, g) => 255 - Math.round((255 - g) * strength));
  let white = (yield* workSlice(applyTable({ width, height, data: art }, weak), 0, 0.1)).data;
  if (chokeMm > 0) {
    const perMm = dotsPerMm(finish);
    let squared = kept.get();
    if (!squared) {
      const shape = yield* workSlice(wholeArt(art, width, height, perMm), 0.1, 0.5);
      kept.set((squared = yield* workSlice(squaredInside(shape, width, height), 0.5, 0.8)));
    }
    white = yield* workSlice(chokedBy(white, squared, chokeMm * perMm), 0.8, 0.9);
  }
  const turned = Uint8Array.from({ length: 256 }, (_, g) => 255 - g);
  return (yield* workSlice(applyTable({ width, height, data: white }, turned), 0.9, 1)).data;
}

/** Where art is whole, or a wash well inside its edge: 1. */
function* wholeArt(art: Uint8Array, width: number, height: number, perMm: number): Work<Uint8Array> {
  const half = yield* workSlice(shapeOf(art), 0, 0.1);
  const squared = yield* workSlice(squaredInside(half, width, height), 0.1, 0.9);
  const deep = (WASH_MM * perMm) ** 2;
  const shape = new Uint8Array(art.length);
  yield* workSlice(
    inStretches(art.length, (from, to) => {
      // A pixel in which a sharp edge lies has whole art beside it.
      for (let i = from; i < to; i++)
        shape[i] = squared[i] > deep || (half[i] === 1 && isWholeAbout(art, i, width)) ? 1 : 0;
    }),
    0.9,
    1,
  );
  return shape;
}

const isWholeAbout = (art: Uint8Array, i: number, width: number): boolean =>
  art[i] <= WHOLE ||
  art[i - 1] <= WHOLE ||
  art[i + 1] <= WHOLE ||
  art[i - width] <= WHOLE ||
  art[i + width] <= WHOLE;
