import { checkPeeking } from "../../inspect/films/peeking";
import { checkTint } from "../../inspect/films/tint";
import { figure, type Check } from "../../inspect/check";
import { type Limits } from "../../inspect/limits";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { type Picture } from "../../result/result";
import { type TransferSettings } from "./settings";

/** How much of the piece is art, how much of it is covered in part, and how much white it takes. */
export function* transferReadings({ colour, onGarment, finish }: Picture): Work<Record<string, number>> {
  const count = colour.width * colour.height;
  let [art, soft, white] = [0, 0, 0];
  yield* inStretches(count, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = colour.data[4 * i + 3];
      if (alpha > 0) art++;
      if (alpha > 0 && alpha < 255) soft++;
      white += onGarment!.white[i];
    }
  });
  const share = (n: number): number => Math.round((1e4 * n) / count) / 100;
  return {
    artPercent: share(art),
    softPercent: share(soft),
    whitePercent: share(white / 255),
    whiteMm2: Math.round((white / 255 / count) * finish.widthMm * finish.heightMm * 100) / 100,
  };
}

/** Tint, white that peeks out, and pixels that are covered in part where there should be none. */
export function* transferChecks(
  { colour, onGarment, finish }: Picture,
  { edges, white }: TransferSettings,
  limits: Limits,
): Work<Check[]> {
  const { width, height, data } = colour;
  const bare = new Uint8Array(width * height);
  const underBare = new Uint8Array(width * height);
  let soft = 0;
  yield* workSlice(
    inStretches(bare.length, (from, to) => {
      for (let i = from; i < to; i++) {
        const alpha = data[4 * i + 3];
        bare[i] = 255 - alpha;
        underBare[i] = 255 - onGarment!.white[i];
        if (alpha > 0 && alpha < 255) soft++;
      }
    }),
    0,
    0.1,
  );
  const layers = [
    { name: "colour", tone: { width, height, data: bare } },
    { name: "white", tone: { width, height, data: underBare } },
  ];
  const tint = yield* workSlice(checkTint(layers, data, finish, limits.areaMm2), 0.1, 0.4);
  const { check, needMm } = yield* workSlice(
    checkPeeking(underBare, [bare], null, finish, limits.registerMm),
    0.4,
    1,
  );
  const chokeMm = Math.min(5, Math.round((white.chokeMm + needMm) * 100) / 100);
  const peeking =
    check.level === "fine"
      ? check
      : {
          ...check,
          repair: { label: `Choke the white ${chokeMm} mm`, change: { white: { ...white, chokeMm } } },
        };
  const percent = (100 * soft) / bare.length;
  const partly: Check = {
    id: "partCovered",
    level: edges === "dots" && soft > 0 ? "stop" : "fine",
    value: soft,
    unit: "pixels",
    text: soft === 0 ? "Every pixel is whole or clear" : "Soft edges",
    detail:
      soft === 0
        ? "Nothing half transparent is left."
        : `${figure(percent, 2)} % of pixels are covered in part; a printer that cannot wants them in dots.`,
    places: [],
  };
  return [tint, peeking, partly];
}
