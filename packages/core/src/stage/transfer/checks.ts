import { checkPeeking } from "../../inspect/films/peeking";
import { checkTint } from "../../inspect/films/tint";
import { figure } from "../../inspect/check";
import { type Limits } from "../../inspect/limits";
import { dotsPerMm } from "../../maths/units";
import { inStretches, type Work } from "../../maths/work";
import { type Picture } from "../../result/result";
import { atOnce, type StageCheck } from "../checks";
import { type TransferSettings } from "./settings";

interface About {
  readonly result: Picture;
  readonly settings: TransferSettings;
  readonly limits: Limits;
  /** Colour and white as plates are: greys, 255 = bare. */
  readonly bare: Uint8Array;
  readonly underBare: Uint8Array;
  /** Pixels that are art, pixels that are covered in part, and white laid, in whole pixels. */
  readonly art: number;
  readonly soft: number;
  readonly white: number;
}

/** What all checks of a transfer go by, in one pass over it. */
export function* aboutTransfer(result: Picture, settings: TransferSettings, limits: Limits): Work<About> {
  const { colour, onGarment } = result;
  const bare = new Uint8Array(colour.width * colour.height);
  const underBare = new Uint8Array(bare.length);
  let [art, soft, white] = [0, 0, 0];
  yield* inStretches(bare.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = colour.data[4 * i + 3];
      bare[i] = 255 - alpha;
      underBare[i] = 255 - onGarment!.white[i];
      if (alpha > 0) art++;
      if (alpha > 0 && alpha < 255) soft++;
      white += onGarment!.white[i];
    }
  });
  return { result, settings, limits, bare, underBare, art, soft, white: white / 255 };
}

/** Everything that is looked at in a transfer. */
export const TRANSFER_CHECKS: readonly StageCheck<About>[] = [
  atOnce(({ bare: { length }, art, soft, white, result: { finish } }) => {
    const share = (n: number): number => Math.round((1e4 * n) / length) / 100;
    const whiteMm2 = Math.round((white / length) * finish.widthMm * finish.heightMm * 100) / 100;
    const readings = {
      artPercent: share(art),
      softPercent: share(soft),
      whitePercent: share(white),
      whiteMm2,
    };
    return { readings };
  }),
  {
    cost: 30,
    *find({ result: { colour, finish }, bare, underBare, limits }) {
      const { width, height, data } = colour;
      const layers = [
        { name: "colour", tone: { width, height, data: bare } },
        { name: "white", tone: { width, height, data: underBare } },
      ];
      return { checks: [yield* checkTint(layers, data, finish, limits.areaMm2)] };
    },
  },
  {
    cost: 60,
    *find({ result: { finish }, bare, underBare, settings: { white }, limits }) {
      const { check, needMm } = yield* checkPeeking(underBare, [bare], null, finish, limits.registerMm);
      if (check.level === "fine") return { checks: [check] };
      // In a fade the white ends between two pixels: half of one more brings it past the pixel that was found.
      const more = needMm + 0.5 / dotsPerMm(finish);
      const chokeMm = Math.min(5, Math.ceil((white.chokeMm + more) * 100 - 1e-6) / 100);
      const change = { white: { ...white, chokeMm } };
      return { checks: [{ ...check, repair: { label: `Choke the white ${chokeMm} mm`, change } }] };
    },
  },
  atOnce(({ soft, settings: { edges }, bare }) => ({
    checks: [
      {
        ...{ id: "partCovered", value: soft, unit: "pixels", places: [] },
        level: edges === "dots" && soft > 0 ? "stop" : "fine",
        text: soft === 0 ? "Every pixel is whole or clear" : "Soft edges",
        detail:
          soft === 0
            ? "Nothing half transparent is left."
            : `${figure((100 * soft) / bare.length, 2)} % of pixels are covered in part; a printer that cannot wants them in dots.`,
      },
    ],
  })),
];
