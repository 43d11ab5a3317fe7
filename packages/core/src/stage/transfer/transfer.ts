import { numberOf } from "../../colour/oklab";
import { scattered } from "../../screen/dotting";
import { faded, keptBeside } from "../../film/knockOut";
import { lightOf } from "../../film/model";
import { vivid } from "../../film/vivid";
import { figure } from "../../inspect/check";
import { copied } from "../../maths/copy";
import { inStretches, workSlice, rowsAtOnce, type Work } from "../../maths/work";
import { unpackRow } from "../../raster/bits";
import { recoloured } from "../../recolour/recolour";
import { type Rgba } from "../../raster/types";
import { type Finish } from "../../result/finish";
import { lessOf } from "../../result/reduce";
import { as, type Picture } from "../../result/result";
import { markByMask } from "../../screen/mask";
import { inspectBy } from "../checks";
import { defineStage, type Context } from "../stage";
import { aboutTransfer, TRANSFER_CHECKS } from "./checks";
import { layersOf } from "./layers";
import { transferSettings, type TransferSettings } from "./settings";

/** Colour art with its true transparency, and the white that lies under it. */
export const transfer = defineStage({
  id: "transfer",
  title: "Transfer",
  settings: transferSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  run: ({ picture }, settings: TransferSettings, { keep }) => layered(picture, settings, keep),
  /** Ink and white are several pictures' work: a first look is made from fewer pixels. */
  *draft({ picture }, settings, { keep }): Work<Picture> {
    const { widthPx, heightPx } = picture.finish;
    const half =
      widthPx * heightPx > MOST_DRAFT_PIXELS && (yield* lessOf(picture, { kind: "halves", times: 1 }));
    return yield* layered(half ? as(half, "picture") : picture, settings, keep);
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
  inColourways: true,
  delivers: "transfer",
  async *files(picture, settings, doing) {
    const { transferFiles } = await import("./files");
    yield* transferFiles(picture, settings, doing);
  },
  inWay: (settings, { garment, recolour }) => ({
    ...settings,
    garment,
    recolour: [...settings.recolour, ...recolour],
  }),
  limits: ["areaMm2", "registerMm"],
  summary: ({ edges, white, mirror, black, saturation, recolour, knockOut }) =>
    [
      edges === "dots" ? "edges in dots" : "soft edges",
      `white ${figure(100 * white.strength, 0)} %, choked ${figure(white.chokeMm, 2)} mm`,
      black > 0 && `black from ${figure(100 * black, 0)} %`,
      saturation !== 1 && `saturation ${figure(100 * saturation, 0)} %`,
      recolour.length > 0 && `${recolour.length} ${recolour.length === 1 ? "colour" : "colours"} changed`,
      knockOut && "garment taken out",
      mirror && "mirrored",
    ]
      .filter(Boolean)
      .join(", "),
});

/** Of a first look. */
const MOST_DRAFT_PIXELS = 500_000;

/** The art's ink and the white under it. */
function* layered(picture: Picture, settings: TransferSettings, keep: Context["keep"]): Work<Picture> {
  const { garment, knockOut, black, saturation, white, edges, inks } = settings;
  const { finish, frame, outline } = picture;
  const { width, height } = picture.colour;
  const own = yield* workSlice(recoloured(picture.colour, settings.recolour), 0, 0.1);
  const colour = yield* workSlice(vivid(own, black, saturation), 0.1, 0.2);
  let bare = yield* workSlice(bareOf(picture.colour), 0.2, 0.25);
  if (knockOut) {
    const { buffer, byteOffset } = picture.colour.data;
    const codes = new Uint32Array(buffer, byteOffset, width * height);
    const kept = yield* workSlice(keptBeside(codes, garment, knockOut), 0.25, 0.35);
    yield* workSlice(faded(bare, kept), 0.35, 0.4);
  }
  if (edges === "dots") bare = yield* workSlice(inDots(bare, finish, settings.dotMm), 0.4, 0.5);
  const name = JSON.stringify([garment, knockOut, edges, settings.dotMm]);
  const at = "inside";
  const distances = {
    get: () => {
      const known = keep.get<{ readonly name: string; readonly squared: Int32Array }>(at);
      return known?.name === name ? known.squared : undefined;
    },
    set: (squared: Int32Array) => keep.set(at, { name, squared }, squared.byteLength),
  };
  const cloth = lightOf(numberOf(garment));
  const layers = yield* workSlice(
    layersOf(colour, bare, finish, cloth, { inks, white }, distances),
    0.5,
    0.95,
  );
  const art = yield* workSlice(withAlpha(colour, layers.ink), 0.95, 1);
  return {
    kind: "picture",
    finish,
    frame,
    ...(outline ? { outline } : {}),
    colour: art,
    cleared: null,
    onGarment: { white: layers.white, garment: numberOf(garment), inkOpacity: inks === "opaque" ? 1 : 0 },
  };
}

/** The art's alpha turned round, as plates are: greys, 255 = bare. */
function* bareOf({ data, width, height }: Rgba): Work<Uint8Array> {
  const bare = new Uint8Array(width * height);
  yield* inStretches(bare.length, (from, to) => {
    for (let i = from; i < to; i++) bare[i] = 255 - data[4 * i + 3];
  });
  return bare;
}

function* withAlpha({ width, height, data }: Rgba, alpha: Uint8Array): Work<Rgba> {
  const out = yield* workSlice(copied(data), 0, 0.4);
  yield* workSlice(
    inStretches(alpha.length, (from, to) => {
      for (let i = from; i < to; i++) out[4 * i + 3] = alpha[i];
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
