import { scattered } from "../../film/dots";
import { faded, keptBeside } from "../../film/knockOut";
import { choke } from "../../film/moveEdge";
import { vivid } from "../../film/vivid";
import { figure } from "../../inspect/check";
import { inStretches, portion, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { bitAt, type Rgba } from "../../raster/types";
import { type Finish } from "../../result/finish";
import { type Picture } from "../../result/result";
import { markByMask } from "../../screen/mask";
import { numberOf } from "../films/inks";
import { defineStage } from "../stage";
import { transferChecks, transferReadings } from "./checks";
import { transferFiles } from "./files";
import { transferSettings, type TransferSettings } from "./settings";

/** Colour art with its true transparency, and the white that lies under it. */
export const transfer = defineStage({
  id: "transfer",
  title: "Transfer",
  settings: transferSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  *run({ picture }, settings: TransferSettings): Work<Picture> {
    const { garment, knockOut, black, saturation, white, edges } = settings;
    const { finish, frame, outline } = picture;
    const { width, height } = picture.colour;
    const colour = yield* portion(vivid(picture.colour, black, saturation), 0, 0.2);
    let alpha = yield* portion(alphaOf(picture.colour), 0.2, 0.25);
    if (knockOut) {
      const own = picture.colour.data;
      const codes = new Uint32Array(own.buffer, own.byteOffset, width * height);
      const kept = yield* portion(keptBeside(codes, garment, knockOut), 0.25, 0.35);
      alpha = yield* portion(lessOf(alpha, kept), 0.35, 0.4);
    }
    if (edges === "dots") alpha = yield* portion(inDots(alpha, finish, settings.dotMm), 0.4, 0.5);
    const art = yield* portion(withAlpha(colour, alpha), 0.5, 0.55);
    const under = yield* portion(whiteUnder(alpha, finish, white), 0.55, 1);
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
    const readings = yield* portion(transferReadings(result), 0, 0.3);
    return { readings, checks: yield* portion(transferChecks(result, settings, limits), 0.3, 1) };
  },
  readings: {
    artPercent: { label: "Art", unit: "%", decimals: 1 },
    softPercent: { label: "Part covered", unit: "%", decimals: 2 },
    whitePercent: { label: "White layer", unit: "%", decimals: 1 },
    whiteMm2: { label: "White area", unit: "mm²", decimals: 1 },
  },
  delivers: "transfer",
  files: transferFiles,
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

function* alphaOf({ data, width, height }: Rgba): Work<Uint8Array> {
  const alpha = new Uint8Array(width * height);
  yield* inStretches(alpha.length, (from, to) => {
    for (let i = from; i < to; i++) alpha[i] = data[4 * i + 3];
  });
  return alpha;
}

function* lessOf(alpha: Uint8Array, kept: Uint8Array): Work<Uint8Array> {
  const bare = alpha.map((a) => 255 - a);
  yield* faded(bare, kept);
  return bare.map((a) => 255 - a);
}

function* withAlpha({ width, height, data }: Rgba, alpha: Uint8Array): Work<Rgba> {
  const out = data.slice();
  yield* inStretches(alpha.length, (from, to) => {
    for (let i = from; i < to; i++) out[4 * i + 3] = alpha[i];
  });
  return { width, height, data: out };
}

/** Every pixel either whole or none: soft ones by scattered dots of a size. */
function* inDots(alpha: Uint8Array, finish: Finish, dotMm: number): Work<Uint8Array> {
  const { widthPx: width, heightPx: height } = finish;
  const { mask } = scattered(dotMm, 0, finish.dotsPerInch);
  const bare = { width, height, data: alpha.map((a) => 255 - a) };
  const bits = yield* portion(markByMask(bare, mask), 0, 0.7);
  const out = new Uint8Array(alpha.length);
  yield* inStretches(out.length, (from, to) => {
    for (let i = from; i < to; i++)
      out[i] = alpha[i] === 255 ? 255 : bitAt(bits, i % width, Math.floor(i / width)) * 255;
  });
  return out;
}

/** As much white as there is art, pulled in from its edge. */
function* whiteUnder(
  alpha: Uint8Array,
  finish: Finish,
  { chokeMm, strength }: TransferSettings["white"],
): Work<Uint8Array> {
  const { widthPx: width, heightPx: height } = finish;
  const bare = alpha.map((a) => 255 - Math.round(a * strength));
  if (chokeMm === 0) return bare.map((v) => 255 - v);
  const shape = alpha.map((a) => (a >= 128 ? 1 : 0));
  const pulled = yield* choke(bare, shape, width, height, chokeMm * dotsPerMm(finish));
  return pulled.map((v) => 255 - v);
}
